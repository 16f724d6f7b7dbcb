import { useEffect, useRef } from "react";
import type { Schemas } from "../../api/client";
import { Core } from "../circuit/Core";
import { boxName, useWork } from "../circuit/work";
import { BoxFront } from "./BoxFront";
import { Pair } from "../drawing/Pair";
import { look } from "../../ui/look";

/** Each box that is worked in: from the front before and after, and each end that moves. The strip picks the box. */
export function BoxByBox() {
  const { circuit, box } = useWork();
  const choice = circuit.choice;
  const at = useRef<HTMLDivElement>(null);
  const before = useRef(box);
  useEffect(() => {
    if (before.current === box) return; // only when somebody picks another
    before.current = box;
    at.current?.querySelector(`[data-at="${box ?? ""}"]`)?.scrollIntoView({ block: "nearest" });
  }, [box]);
  if (!choice) return null;
  const boxes = circuit.document.boxes.filter((b) => choice.option.boxesTouched?.includes(b.id));
  return (
    <section aria-label="Changes by box" className="changes px-6 py-2.5 max-sm:px-3.5" ref={at}>
      <h2 className={look.title}>Changes, box by box</h2>
      {boxes.map((b) => (
        <BoxChanges key={b.id} box={b.id} changes={choice.changes.filter((c) => c.box === b.id)} />
      ))}
    </section>
  );
}

function BoxChanges(props: { box: string; changes: Schemas["Change"][] }) {
  const { circuit, word } = useWork();
  const name = boxName(circuit, props.box);
  const out = circuit.document.devices.filter((d) => d.box === props.box && !circuit.choice?.document.devices.some((x) => x.id === d.id));
  const into =
    circuit.choice?.document.devices.filter((d) => d.box === props.box && !circuit.document.devices.some((x) => x.id === d.id)) ?? [];
  return (
    <section className={look.chapter} data-at={props.box}>
      <h3>{name}</h3>
      <p>
        {out.map((d) => `Out: ${circuit.reading.names.here[d.id]}. `)}
        {into.map((d) => `In: ${d.name ?? word(d.type)}. `)}
      </p>
      <Pair>
        <figure>
          <figcaption>Before</figcaption>
          <BoxFront box={props.box} of="found" label={`${name} before, from the front`} />
        </figure>
        <figure>
          <figcaption>After</figcaption>
          <BoxFront box={props.box} of="planned" label={`${name} after, from the front`} />
        </figure>
      </Pair>
      <div className="overflow-x-auto" tabIndex={0} role="region" aria-label={`Ends that move in ${name}`}>
        <table>
          <thead>
            <tr>
              <th scope="col">Core</th>
              <th scope="col">Cable</th>
              <th scope="col">From → to</th>
              <th scope="col">Re-mark</th>
            </tr>
          </thead>
          <tbody>
            {props.changes.map((c) => {
              const [ref = ""] = c.end.split("@");
              const [cable = "", core = ""] = ref.split(".");
              return (
                <tr key={c.end}>
                  <td>
                    <Core core={core} />
                  </td>
                  <td>{circuit.reading.names.to[`${cable}@${props.box}`] ?? "new"}</td>
                  <td>{c.text}</td>
                  <td>{c.mark ? word(c.mark) : "—"}</td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
    </section>
  );
}
