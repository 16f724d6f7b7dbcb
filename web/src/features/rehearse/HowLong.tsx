import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useWithin, type What } from "../../api/rehearsal";
import { look } from "../../ui/look";
import { Notice } from "../../ui/Notice";
import { Seconds } from "./Seconds";

/** How long messages take, and what holds then: of the orders in which they may arrive only those count that can come about. */
export function HowLong(props: {
  circuit: string;
  revision: string;
  what: What;
  rehearsal: Schemas["Rehearsal"];
  name: (device: string) => string;
}) {
  const { report, measured, ways } = props.rehearsal;
  const [delays, setDelays] = useState(props.rehearsal.delays);
  const known = {
    ...delays,
    ways: Object.fromEntries(ways.map((w) => [w, delays.ways[w] ?? props.rehearsal.delays.ways[w] ?? { quickest: 0, slowest: 0 }])),
  };
  const timed = useWithin(props.circuit, props.revision, props.what, known);
  const spans = Object.values(known.ways);
  const quickest = Math.min(...spans.map((s) => s.quickest));
  const slowest = Math.max(...spans.map((s) => s.slowest));
  return (
    <section aria-label="How long messages take" className="grid gap-2">
      <h2>How long messages take</h2>
      {ways.map((way) => {
        const span = known.ways[way] ?? { quickest: 0, slowest: 0 };
        const set = (to: Partial<typeof span>) => setDelays({ ...known, ways: { ...known.ways, [way]: { ...span, ...to } } });
        return (
          <div key={way} className={look.fields}>
            <Seconds label={`Over the ${way}, from s`} value={span.quickest} most={60} set={(to) => set({ quickest: to })} />
            <Seconds label={`over the ${way}, to s`} value={span.slowest} most={60} set={(to) => set({ slowest: to })} />
          </div>
        );
      })}
      <div className={look.fields}>
        <Seconds
          label="Between two presses of people in haste, s at least"
          value={known.pause}
          most={60}
          set={(pause) => setDelays({ ...known, pause })}
        />
      </div>
      <p className="text-soft">
        {measured
          ? `As ${measured.trials === 1 ? "one trial" : `${measured.trials} trials`} of the plan that was fitted took.`
          : "Nobody tried it here yet: these seconds are assumed."}
      </p>
      <Notice error={timed.error} />
      {timed.data && !timed.error && (
        <>
          <p role="status" className="font-semibold">
            {timed.data.verdict === "sound"
              ? report.verdict === "sound"
                ? "With these delays it is sound, as in every order."
                : "With these delays it is sound: what goes wrong in other orders cannot come about."
              : "With these delays it is flawed too."}
            {timed.data.cutOff && " There was more to go through than was gone through."}
          </p>
          <ul className={look.dashes}>
            {timed.data.properties
              .filter((p) => !p.holds)
              .map((p) => (
                <li key={p.code}>{p.text}</li>
              ))}
            {report.latencies.map((l) => (
              <li key={l.device}>
                {props.name(l.device)}: the light obeys{" "}
                {l.most === 0 ? "at once" : `after ${messages(l.least, l.most)}, ${span(l.least * quickest, l.most * slowest)} s`}
              </li>
            ))}
            {report.patience !== undefined && report.patience > 0 && (
              <li>
                All is quiet {(report.patience * slowest).toFixed(1)} s after a press at the latest: who waits for so long is patient.
              </li>
            )}
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
