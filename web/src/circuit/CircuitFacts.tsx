import { useState } from "react";
import { usePractices } from "../api/queries";
import { useWork } from "./work";

/** Name, practice and supply of the circuit. */
export function CircuitFacts() {
  const { circuit, change, word, practice } = useWork();
  const practices = usePractices();
  const doc = circuit.document;
  return (
    <section className="block" aria-label="The circuit">
      <h2>The circuit</h2>
      <div className="fields">
        <Saved label="Name" value={doc.name ?? ""} onSave={(name) => change({ do: "edit", edit: { op: "set-circuit", name } })} />
        <label className="field">
          <span>Practice</span>
          <select value={doc.practice} onChange={(e) => change({ do: "edit", edit: { op: "set-circuit", practice: e.target.value } })}>
            {practices.data?.map((p) => (
              <option key={p.id} value={p.id}>
                {p.name}
              </option>
            ))}
          </select>
        </label>
        {practice?.eras && (
          <label className="field">
            <span>Colours of the house</span>
            <select value={doc.colours ?? ""} onChange={(e) => change({ do: "edit", edit: { op: "set-circuit", colours: e.target.value as "old" } })}>
              <option value="" disabled>
                not noted: both accepted
              </option>
              <option value="new">new colours</option>
              <option value="old">old colours</option>
              <option value="mixed">both, in one house</option>
            </select>
          </label>
        )}
        <Saved label={`${upper(word("breaker"))} label`} value={doc.supply?.breakerLabel ?? ""} onSave={(breakerLabel) => change({ do: "edit", edit: { op: "set-circuit", breakerLabel } })} />
        <Saved label={`${upper(word("breaker"))}, amperes`} type="number" value={String(doc.supply?.breakerAmps ?? "")} onSave={(v) => change({ do: "edit", edit: { op: "set-circuit", breakerAmps: Number(v) } })} />
        <Saved label={`Volts (${practice?.volts ?? ""} if left empty)`} type="number" value={String(doc.supply?.volts ?? "")} onSave={(v) => change({ do: "edit", edit: { op: "set-circuit", volts: Number(v) } })} />
      </div>
      <p className="caution">
        {practice?.caution} {practice?.whoMay} Confirm every finding with your local code.
      </p>
    </section>
  );
}

/** A word at the beginning of a label. */
export const upper = (text: string) => text.slice(0, 1).toUpperCase() + text.slice(1);

/** A field that saves itself when it is left or Enter is pressed. */
export function Saved(props: { label: string; value: string; type?: "text" | "number"; onSave: (value: string) => void }) {
  const [draft, setDraft] = useState<string>();
  const save = () => {
    if (draft !== undefined && draft.trim() !== "" && draft !== props.value) props.onSave(draft.trim());
    setDraft(undefined);
  };
  return (
    <label className="field">
      <span>{props.label}</span>
      <input
        type={props.type ?? "text"}
        inputMode={props.type === "number" ? "decimal" : undefined}
        step="any"
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
