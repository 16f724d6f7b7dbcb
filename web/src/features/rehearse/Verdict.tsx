import { Check, X } from "lucide-react";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { look } from "../../ui/look";
import { Seconds } from "./Seconds";

/** What holds in every order of messages, what does not with the shortest way to it, and what a cut way leaves. */
export function Verdict(props: {
  rehearsal: Schemas["Rehearsal"];
  name: (device: string) => string;
  show: (code: string) => void;
  busy: boolean;
}) {
  const { report, rules } = props.rehearsal;
  const measured = props.rehearsal.measured;
  const [quickest, setQuickest] = useState(measured?.quickest ?? 0.1);
  const [slowest, setSlowest] = useState(measured?.slowest ?? 0.6);
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
      {props.rehearsal.ways.length > 0 && report.latencies.length > 0 && (
        <>
          <h3>Until the light obeys</h3>
          <div className={look.fields}>
            <Seconds label="A message takes from, s" value={quickest} set={setQuickest} />
            <Seconds label="to, s" value={slowest} set={setSlowest} />
          </div>
          <p className="text-soft">
            {measured
              ? `As ${measured.trials === 1 ? "one trial" : `${measured.trials} trials`} of the plan that was fitted took.`
              : "Nobody tried it here yet: these seconds are assumed."}
          </p>
          <ul className={look.dashes}>
            {report.latencies.map((l) => (
              <li key={l.device}>
                {props.name(l.device)}:{" "}
                {l.most === 0 ? "at once" : `${messages(l.least, l.most)}, ${span(l.least * quickest, l.most * slowest)} s`}
              </li>
            ))}
            {report.patience !== undefined && report.patience > 0 && (
              <li>
                All is quiet {(report.patience * slowest).toFixed(1)} s after a press at the latest (
                {messages(report.patience, report.patience)}
                ): who waits for so long is patient.
              </li>
            )}
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
      {rules.length > 0 && (
        <>
          <h2>In plain words</h2>
          <ul className={look.dashes}>
            {rules.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}

const messages = (least: number, most: number) =>
  least === most ? (most === 1 ? "one message" : `${most} messages`) : `${least} to ${most} messages`;

/** A range of seconds, to tenths. */
const span = (from: number, to: number) => (from === to ? to.toFixed(1) : `${from.toFixed(1)} to ${to.toFixed(1)}`);
