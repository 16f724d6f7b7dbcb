import { useState } from "react";
import { usePractices } from "../../api/queries";
import { useWork } from "../circuit/work";
import { Choice } from "../../ui/Choice";
import { among } from "../../ui/among";
import { look } from "../../ui/look";

/** Name, practice and supply of the circuit. */
export function CircuitFacts() {
  const { circuit, change, word, practice } = useWork();
  const practices = usePractices();
  const doc = circuit.document;
  return (
    <section className={look.chapter} aria-label="The circuit">
      <h2>The circuit</h2>
      <div className={look.fields}>
        <Saved label="Name" value={doc.name ?? ""} onSave={(name) => change({ do: "edit", edit: { op: "set-circuit", name } })} />
        <Choice
          above
          label="Practice"
          value={doc.practice}
          options={(practices.data ?? []).map((p) => [p.id, p.name])}
          set={(id) => change({ do: "edit", edit: { op: "set-circuit", practice: id } })}
        />
        {practice?.eras && (
          <Choice
            above
            label="Colours of the house"
            value={doc.colours ?? ""}
            options={[
              ["", "not noted: both accepted"],
              ["new", "new colours"],
              ["old", "old colours"],
              ["mixed", "both, in one house"],
            ]}
            set={(to) => {
              const colours = among(["new", "old", "mixed"], to);
              change({ do: "edit", edit: { op: "set-circuit", ...(colours ? { colours } : { clear: ["colours"] }) } });
            }}
          />
        )}
        <Saved
          label={`${upper(word("breaker"))} label`}
          value={doc.supply?.breakerLabel ?? ""}
          onSave={(breakerLabel) => change({ do: "edit", edit: { op: "set-circuit", breakerLabel } })}
          onClear={() => change({ do: "edit", edit: { op: "set-circuit", clear: ["breakerLabel"] } })}
        />
        <Measured
          label={`${upper(word("breaker"))}, amperes`}
          value={doc.supply?.breakerAmps}
          onSave={(breakerAmps) => change({ do: "edit", edit: { op: "set-circuit", breakerAmps } })}
        />
        <Measured
          label={`Volts (${practice?.volts ?? ""} if left empty)`}
          value={doc.supply?.volts}
          onSave={(volts) => change({ do: "edit", edit: { op: "set-circuit", volts } })}
        />
      </div>
      <p className={look.caution}>
        {practice?.caution} {practice?.whoMay} Confirm every finding with your local code.
      </p>
    </section>
  );
}

/** A word at the beginning of a label. */
export const upper = (text: string) => text.slice(0, 1).toUpperCase() + text.slice(1);

/** A field that saves itself when it is left or Enter is pressed; emptied, it is not known again where that can be. */
export function Saved(props: { label: string; value: string; onSave: (value: string) => void; onClear?: () => void }) {
  const [draft, setDraft] = useState<string>();
  const save = () => {
    if (draft !== undefined && draft.trim() === "" && props.value !== "") props.onClear?.();
    else if (draft !== undefined && draft.trim() !== "" && draft !== props.value) props.onSave(draft.trim());
    setDraft(undefined);
  };
  return (
    <label className={look.field}>
      <span>{props.label}</span>
      <input
        type="text"
        value={draft ?? props.value}
        maxLength={120}
        onChange={(e) => setDraft(e.target.value)}
        onBlur={save}
        onKeyDown={(e) => {
          if (e.key === "Enter") save();
          if (e.key === "Escape") setDraft(undefined);
        }}
      />
    </label>
  );
}

/** A number as people write it, with a comma or a point; undefined for what is none. An empty one is 0: not known. */
export function numberIn(text: string) {
  const value = Number(text.trim().replace(",", "."));
  return Number.isFinite(value) && value >= 0 ? value : undefined;
}

/** A measured number that saves itself when it is left or Enter is pressed; emptied, it is not known again. */
export function Measured(props: { label: string; value: number | undefined; onSave: (value: number) => void }) {
  const shown = props.value === undefined ? "" : String(props.value);
  const [draft, setDraft] = useState<string>();
  const wrong = draft !== undefined && numberIn(draft) === undefined;
  const save = () => {
    if (wrong) return; // what was typed is kept to be mended
    const value = draft === undefined ? undefined : numberIn(draft);
    if (value !== undefined && draft?.trim() !== shown) props.onSave(value);
    setDraft(undefined);
  };
  return (
    <label className={look.field}>
      <span>{props.label}</span>
      <input
        type="text"
        inputMode="decimal"
        placeholder="not known"
        value={draft ?? shown}
        maxLength={20}
        aria-invalid={wrong || undefined}
        onChange={(e) => setDraft(e.target.value)}
        onBlur={save}
        onKeyDown={(e) => {
          if (e.key === "Enter") save();
          if (e.key === "Escape") setDraft(undefined);
        }}
      />
      {wrong && <span role="alert">This is no number.</span>}
    </label>
  );
}
