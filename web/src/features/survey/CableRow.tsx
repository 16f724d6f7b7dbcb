import { ToggleGroup } from "radix-ui";
import type { CircuitFile } from "../../api/client";
import { Remove } from "../../ui/Remove";
import { Core, gaugeText } from "../circuit/Core";
import { useWork } from "../circuit/work";
import { endLook } from "./endLook";
import { Choice } from "../../ui/Choice";

type Cable = CircuitFile["cables"][number];

/** One cable of a box: where it goes, and each of its cores. */
export function CableRow(props: { cable: Cable; box: string; joinText: (ref: string) => string }) {
  const { circuit, change, word, pointed } = useWork();
  const { cable } = props;
  const names = circuit.reading.names;
  const to = names.to[`${cable.id}@${props.box}`] ?? "";
  const open = cable.ends.includes(null);
  const others = circuit.document.cables.filter((k) => k.id !== cable.id && k.ends.includes(null) && !k.ends.includes(props.box));
  const boxes = circuit.document.boxes.filter((b) => b.id !== props.box);
  const report = circuit.reading.report;
  const known = (of: string) => circuit.document.evidence?.find((e) => e.of === of)?.how;
  const run = known(cable.id);
  return (
    <div className="border-l-4 border-ink pl-3" role="group" aria-label={`Cable, ${to}`}>
      <div className="flex flex-wrap items-center gap-2 *:last:ml-auto">
        <strong>{to}</strong>{" "}
        {open ? (
          <Choice
            quiet
            label={`Where does the ${to} go?`}
            hint="far end not known …"
            value=""
            options={[
              ...others.map((k): [string, string] => [`cable:${k.id}`, `is the same cable as ${names.cables[k.id]}`]),
              ...boxes.map((b): [string, string] => [`box:${b.id}`, `goes to ${names.boxes[b.id]}`]),
            ]}
            set={(picked) => {
              const [what, id] = picked.split(":");
              change({
                do: "edit",
                edit: what === "cable" ? { op: "join-stubs", cable: cable.id, other: id } : { op: "set-cable", cable: cable.id, to: id },
              });
            }}
          />
        ) : null}
        <Choice
          quiet
          label={`Gauge of the cable, ${to}`}
          value={cable.gauge ?? "none"}
          options={[
            ["none", "gauge not known"],
            ...[...new Set([...circuit.reading.gauges, ...(cable.gauge ? [cable.gauge] : [])])].map((g): [string, string] => [
              g,
              gaugeText(g),
            ]),
          ]}
          set={(gauge) => change({ do: "edit", edit: { op: "set-cable", cable: cable.id, gauge } })}
        />
        {run && <span className="text-soft"> {run}</span>}
        <Remove
          what={`the cable, ${to}`}
          warning="Remove this cable? Undo brings it back."
          onRemove={() => change({ do: "edit", edit: { op: "remove-cable", cable: cable.id } })}
        />
      </div>
      <div className="grid grid-cols-[repeat(auto-fill,minmax(6.2rem,1fr))] gap-1.5">
        {cable.cores.map((core) => {
          const ref = `${cable.id}.${core}`;
          const role = report.roles[`${ref}@${props.box}`];
          const how = known(`${ref}@${props.box}`);
          const mark = circuit.document.marks?.find((m) => m.end === `${ref}@${props.box}`);
          return (
            <ToggleGroup.Item key={core} value={ref} data-end={ref} className={endLook(`${ref}@${props.box}`, pointed)}>
              <Core core={core} />
              <span>
                {role ? word(role) : "not known"}
                {mark ? ` · marked ${word(mark.as)}` : ""}
                {report.findings.some((f) => f.severity !== "note" && f.at.includes(`${ref}@${props.box}`)) ? " · see findings" : ""}
              </span>
              <span className="end-join text-[0.82rem] text-soft">
                {props.joinText(ref) || "capped"}
                {how && how !== "seen" ? ` · ${how}` : ""}
              </span>
            </ToggleGroup.Item>
          );
        })}
      </div>
    </div>
  );
}
