import type { Entry } from "../../api/fitting";
import { Fold } from "../../ui/Fold";
import { useWork } from "../circuit/work";
import { look } from "../../ui/look";
import { ReadingForm } from "./ReadingForm";
import type { Proof } from "./ProveStage";

/** What pressing cannot show: a reading each, with place, setup and the right value. */
export function MeterTests(props: { proof: Proof; busy: boolean; add: (entry: Entry) => void }) {
  const { point } = useWork();
  const next = props.proof.meter.find((m) => m.entry === undefined);
  const made = props.proof.meter.filter((m) => m.entry !== undefined).length;
  return (
    <Fold section open title={`What no press shows: ${made} of ${props.proof.meter.length} readings taken`}>
      <ol>
        {props.proof.meter.map((m) => (
          <li key={m.text} className="border-t border-rule py-2">
            <p>{m.text}</p>
            <p className="text-soft">
              Right: {m.right}. It shows {m.mistakes === 1 ? "one mistake" : `${m.mistakes} mistakes`}.
            </p>
            {m.value !== undefined ? (
              <p role="status">
                Read: <strong>{m.value}</strong>
              </p>
            ) : m !== next && m.asks.length > 0 ? null : (
              <ReadingForm test={m.test} asks={m.asks} busy={props.busy} add={props.add} />
            )}
            <button type="button" className={`${look.button} mt-2`} onClick={() => point(m.test.at ?? [])}>
              Show
            </button>
          </li>
        ))}
      </ol>
    </Fold>
  );
}
