import { emptyBoxes } from "../../api/terms.gen";
import { useRef, useState } from "react";
import { useKeys } from "../../ui/useKeys";
import { coreText } from "../circuit/Core";
import { boxName, useWork } from "../circuit/work";
import { UsualBoxes } from "./UsualBoxes";
import { Choice } from "../../ui/Choice";
import { look } from "../../ui/look";

/** Add a box: a usual one in one tap, or an empty one to fill by hand. */
export function AddBox() {
  const { circuit, change, busy, setBox } = useWork();
  const stubs = circuit.document.cables.filter((k) => k.ends.includes(null));
  const [picked, setPicked] = useState<string>();
  const [name, setName] = useState("");
  const field = useRef<HTMLInputElement>(null);
  const via = picked === "" ? "" : ((stubs.find((k) => k.id === picked) ?? (stubs.length === 1 ? stubs[0] : undefined))?.id ?? "");
  const fits = circuit.reading.usual;
  const like = circuit.reading.like[via] ?? [];
  const add = (what: { preset?: string; kind?: string; like?: string }) => {
    change(
      {
        do: "edit",
        edit: {
          op: "add-box",
          ...what,
          name: name.trim() || undefined,
          cable: fits[""]?.includes(what.preset ?? "") ? undefined : via || undefined,
        },
      },
      (next) => {
        const added = next.document.boxes.at(-1);
        if (added) setBox(added.id);
      },
    );
    setName("");
    setPicked(undefined);
  };
  const last = like[0];
  useKeys({ a: () => field.current?.focus(), e: last && !busy ? () => add({ like: last }) : undefined });
  return (
    <section className={look.chapter} aria-label="Add a box">
      <h2>Add a box</h2>
      <div className={look.fields}>
        <label className={look.field}>
          <span>Where it is</span>
          <input ref={field} value={name} maxLength={120} onChange={(e) => setName(e.target.value)} placeholder="Foot of the stair" />
        </label>
        {stubs.length > 0 && (
          <Choice
            above
            label="Reached by"
            value={via}
            options={[
              ...stubs.map((k): [string, string] => [k.id, `${circuit.reading.names.cables[k.id]} (${k.cores.map(coreText).join(" ")})`]),
              ["", "not known"],
            ]}
            set={setPicked}
          />
        )}
      </div>
      <UsualBoxes key={via} cable={via} add={(b) => add({ preset: b.id })} />
      {like.length > 0 && (
        <>
          <h3>The same as one that is recorded</h3>
          <div className={look.row}>
            {like.slice(0, 3).map((id, i) => (
              <button key={id} type="button" className={look.button} disabled={busy} onClick={() => add({ like: id })}>
                {i === 0 && <kbd aria-hidden>E</kbd>} Same as {boxName(circuit, id)}
              </button>
            ))}
          </div>
        </>
      )}
      <h3>Or one to fill by hand</h3>
      <div className={look.row}>
        {emptyBoxes.map(([kind, label]) => (
          <button key={kind} type="button" className={look.button} disabled={busy} onClick={() => add({ kind })}>
            {label}
          </button>
        ))}
      </div>
    </section>
  );
}
