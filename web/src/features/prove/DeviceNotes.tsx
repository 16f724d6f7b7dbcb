import type { Entry } from "../../api/fitting";
import { Fold } from "../../ui/Fold";
import { look } from "../../ui/look";
import { useWork } from "../circuit/work";
import type { Proof } from "./ProveStage";

/** What is to be noted of each device, from its model: kept as one leaves the field. */
export function DeviceNotes(props: { proof: Proof; busy: boolean; add: (entry: Entry) => void }) {
  const { circuit } = useWork();
  const facts = props.proof.devices.flatMap((d) => d.facts);
  return (
    <Fold section title={`Devices: ${facts.filter((f) => f.value).length} of ${facts.length} facts noted`}>
      {props.proof.devices.map((d) => (
        <Fold key={d.device} title={`${d.where}: ${d.name}`}>
          <div className={look.fields}>
            {d.facts.map((f) => (
              <label key={`${f.id} ${f.entry ?? 0}`} className={look.field}>
                <span>
                  {f.label}
                  {f.hint ? ` (${f.hint})` : ""}
                </span>
                <input
                  defaultValue={f.value ?? ""}
                  maxLength={200}
                  type={f.date ? "date" : "text"}
                  onBlur={(e) => {
                    const value = e.target.value.trim();
                    if (value !== (f.value ?? "")) props.add({ kind: "device", place: d.device, field: f.id, value });
                  }}
                />
              </label>
            ))}
          </div>
        </Fold>
      ))}
      {facts.some((f) => f.date && f.value) && (
        <a className={look.button} href={`/api/v1/circuits/${circuit.id}/batteries`}>
          Battery dates, as a calendar
        </a>
      )}
    </Fold>
  );
}
