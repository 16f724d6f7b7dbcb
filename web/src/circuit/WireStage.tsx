import { Link } from "react-router";
import type { Schemas } from "../api/client";
import { Core } from "./Core";
import { LiveDiagram } from "./LiveDiagram";
import { boxName, useWork } from "./work";

/** Before and after, and each end that moves, box by box. */
export function WireStage() {
  const { circuit, practice } = useWork();
  const choice = circuit.choice;
  if (!choice) {
    return (
      <div className="stage">
        <p className="empty">
          No plan is chosen yet. <Link to={`/circuits/${circuit.id}/choose`}>Choose one</Link>, and its drawing stands here
          beside today’s.
        </p>
        <LiveDiagram of="found" heading="As found" />
      </div>
    );
  }
  const boxes = circuit.document.boxes.filter((b) => choice.option.boxesTouched?.includes(b.id));
  return (
    <div className="stage">
      <p className="caution">
        {practice?.caution} {practice?.whoMay} This plan is of the circuit as recorded: a wrong record gives a wrong plan.
      </p>
      <LiveDiagram of="found" heading="Before" keys={false} compare />
      <LiveDiagram of="planned" heading="After" compare />
      <section aria-label="Changes by box" className="changes">
        <h2 className="section-title">Changes, box by box</h2>
        {boxes.map((b) => (
          <BoxChanges key={b.id} box={b.id} changes={choice.changes.filter((c) => c.box === b.id)} />
        ))}
      </section>
    </div>
  );
}

function BoxChanges(props: { box: string; changes: Schemas["Change"][] }) {
  const { circuit } = useWork();
  const out = circuit.document.devices.filter((d) => d.box === props.box && !circuit.choice?.document.devices.some((x) => x.id === d.id));
  const into = circuit.choice?.document.devices.filter((d) => d.box === props.box && !circuit.document.devices.some((x) => x.id === d.id)) ?? [];
  const { word } = useWork();
  return (
    <section className="block">
      <h3>{boxName(circuit, props.box)}</h3>
      <p>
        {out.map((d) => `Out: ${d.name ?? word(d.type)} ${d.id}. `)}
        {into.map((d) => `In: ${d.name ?? d.model} ${d.id}. `)}
      </p>
      <div className="scroll" tabIndex={0} role="region" aria-label={`Ends that move in ${boxName(circuit, props.box)}`}>
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
              const ends = circuit.document.cables.find((k) => k.id === cable)?.ends ?? [];
              const far = ends.find((b) => b !== null && b !== props.box);
              return (
                <tr key={c.end}>
                  <td>
                    <Core core={core} />
                  </td>
                  <td>
                    {cable}
                    {far ? `, to ${boxName(circuit, far)}` : ""}
                  </td>
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
