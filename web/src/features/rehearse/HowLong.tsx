import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useWithin, type What } from "../../api/rehearsal";
import { Amount } from "../../ui/Amount";
import { look } from "../../ui/look";
import { Notice } from "../../ui/Notice";

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
  return (
    <section aria-label="How long messages take" className="grid gap-2">
      <h2>How long messages take</h2>
      {ways.map((way) => {
        const span = known.ways[way] ?? { quickest: 0, slowest: 0 };
        const set = (to: Partial<typeof span>) => setDelays({ ...known, ways: { ...known.ways, [way]: { ...span, ...to } } });
        return (
          <div key={way} className={look.fields}>
            <Amount label={`Over the ${way}, from s`} value={span.quickest} most={60} set={(to) => set({ quickest: to })} />
            <Amount label={`over the ${way}, to s`} value={span.slowest} most={60} set={(to) => set({ slowest: to })} />
          </div>
        );
      })}
      <div className={look.fields}>
        <Amount
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
            {timed.data.waits.map((w) => (
              <li key={w.device}>
                {props.name(w.device)}: the light obeys {w.slowest === 0 ? "at once" : `after ${span(w.quickest, w.slowest)} s`}
              </li>
            ))}
            {timed.data.quiet !== undefined && timed.data.quiet > 0 && (
              <li>All is quiet {timed.data.quiet.toFixed(1)} s after a press at the latest: who waits for so long is patient.</li>
            )}
          </ul>
        </>
      )}
    </section>
  );
}

/** A range of seconds, to tenths. */
const span = (from: number, to: number) => (from === to ? to.toFixed(1) : `${from.toFixed(1)} to ${to.toFixed(1)}`);
