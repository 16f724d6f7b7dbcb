import { Check, X } from "lucide-react";
import type { Schemas } from "../../api/client";
import { look } from "../../ui/look";

/** What holds in every order of messages, what does not with the shortest way to it, and what a cut way leaves. */
export function Verdict(props: {
  rehearsal: Schemas["Rehearsal"];
  name: (device: string) => string;
  show: (code: string) => void;
  busy: boolean;
}) {
  const { report } = props.rehearsal;
  return (
    <section aria-label="The verdict" className="grid gap-2">
      <h2>
        <span role="status">{report.verdict === "sound" ? "Sound in every order" : "Flawed"}</span>
      </h2>
      {report.cutOff && <p>There was more to go through than was gone through: what holds, holds as far as that.</p>}
      <ul>
        {report.properties.map((p) => (
          <li key={p.code} className="flex flex-wrap items-center gap-2 border-t border-rule py-2">
            {p.holds ? <Check aria-label="holds" size={18} /> : <X aria-label="does not hold" size={18} />}
            <span className="min-w-0 flex-1">{p.text}</span>
            {!p.holds && p.witness.length > 0 && (
              <button type="button" className={look.small} disabled={props.busy} onClick={() => props.show(p.code)}>
                Show me
              </button>
            )}
          </li>
        ))}
      </ul>
      {props.rehearsal.ways.length > 0 && (
        <>
          <h3>Where a message goes astray, or a device starts anew</h3>
          <ul>
            {report.beyond.map((p) => (
              <li key={p.code} className="flex flex-wrap items-center gap-2 border-t border-rule py-2">
                {p.holds ? <Check aria-label="holds" size={18} /> : <X aria-label="does not hold" size={18} />}
                <span className="min-w-0 flex-1">{p.text}</span>
              </li>
            ))}
          </ul>
        </>
      )}
      {report.outages.map((o) => (
        <p key={o.down}>
          With the {o.down} down:{" "}
          {Object.entries(o.works)
            .map(([device, works]) => `${props.name(device)} ${works ? "works" : "does not"}`)
            .join("; ")}
          .
        </p>
      ))}
    </section>
  );
}
