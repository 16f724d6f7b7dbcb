import type { Schemas } from "../../api/client";
import { look } from "../../ui/look";
import { useWork } from "../circuit/work";

/** The ends of a step one by one, with screw, mark and stripping length; or what is entered in a hub, line by line. */
export function Facts({ step }: { step: Schemas["Step"] }) {
  const wires = step.wires ?? [];
  if (step.enter)
    return (
      <ul className={`${look.dashes} pb-2`} aria-label="To be entered">
        {step.enter.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
    );
  if (wires.length === 0) return null;
  return (
    <>
      <Table step={step} />
      {step.read && (
        <ul className={`${look.dashes} pb-2 text-soft`} aria-label="What was read of them">
          {step.read.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      )}
    </>
  );
}

function Table({ step }: { step: Schemas["Step"] }) {
  const { word } = useWork();
  return (
    <table className="mb-3 min-w-0 wrap-normal">
      <thead>
        <tr>
          <th scope="col">Conductor</th>
          <th scope="col">Goes to</th>
          <th scope="col">Is</th>
          <th scope="col">Screw</th>
        </tr>
      </thead>
      <tbody>
        {(step.wires ?? []).map((w) => (
          <tr key={w.end}>
            <td>{w.letters || word("pigtail")}</td>
            <td>{w.towards || "—"}</td>
            <td>
              {w.role === "" ? "not known" : w.role === "unused" ? "spare" : word(w.role)}
              {w.mark ? `, marked ${word(w.mark)}` : ""}
            </td>
            <td>
              {w.screw || (step.connector ? step.connector.pieces.map((holds) => `${word("connector")} for ${holds}`).join(" and ") : "—")}
              {w.stripMm ? `, strip ${w.stripMm} mm` : ""}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
