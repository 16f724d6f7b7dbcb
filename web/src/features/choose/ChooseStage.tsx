import { useState } from "react";
import { Link } from "react-router";
import type { Option } from "../../api/client";
import { usePlan } from "../../api/queries";
import { Current } from "../../ui/Current";
import { Notice, Waiting } from "../../ui/Notice";
import { Fitting } from "./OptionRow";
import { TradeOff } from "./TradeOff";
import { Beside } from "./Beside";
import { Wishes } from "./Wishes";
import { useWork } from "../circuit/work";

/** How many options stand side by side at most. */
const most = 4;

/** Options of one strategy together, in the order of the best of each. */
function byStrategy(options: Option[]): Option[][] {
  const out = new Map<string, Option[]>();
  for (const o of options) out.set(o.strategy, [...(out.get(o.strategy) ?? []), o]);
  return [...out.values()];
}

/** Options that fail for the same reasons together. */
function byReasons(options: Option[]): Option[][] {
  const out = new Map<string, Option[]>();
  for (const o of options) {
    const why = o.reasons?.map((r) => r.text).join("\n") ?? "";
    out.set(why, [...(out.get(why) ?? []), o]);
  }
  return [...out.values()];
}

/** What these conductors can carry, each proved; and what they cannot, and why. */
export function ChooseStage(props: { shown: string | undefined; show: (option: string | undefined) => void }) {
  const { circuit } = useWork();
  const plan = usePlan(circuit.id, circuit.revision);
  const [marked, setMarked] = useState<string[]>([]);
  const options = plan.data?.options ?? [];
  const fits = options.filter((o) => o.feasible);
  const not = options.filter((o) => !o.feasible);
  const reasons = not[0]?.reasons ?? [];
  const faulty = fits.length === 0 && not.length > 0 && not.every((o) => o.reasons?.[0]?.code === "circuit-faulty");
  const shown = fits.find((o) => o.id === props.shown);
  const compared = marked.filter((id) => fits.some((o) => o.id === id));
  const mark = (id: string) => setMarked((before) => (before.includes(id) ? before.filter((x) => x !== id) : [...before, id].slice(-most)));
  return (
    <div className="stage">
      <Notice error={plan.error} />
      {plan.isPending && <Waiting what="Allocating and simulating" />}
      {plan.data && options.length === 0 && (
        <p className="empty">There is nothing to plan on yet: record two switches and the lamp first.</p>
      )}
      {faulty && (
        <section className="block">
          <h2>Nothing is planned on a circuit that is not sound</h2>
          <ul className="understood">
            {reasons.map((r) => (
              <li key={r.text}>{r.text}</li>
            ))}
          </ul>
        </section>
      )}
      {options.length > 0 && !faulty && (
        <section aria-label="Wishes">
          <Wishes />
          {plan.data?.conflicts?.map((c) => (
            <p key={c.text} className="notice" role="status">
              {c.text}
            </p>
          ))}
        </section>
      )}
      <Current stale={plan.isPlaceholderData} what="planned anew for the circuit as it is now">
        {shown && <Beside option={shown} close={() => props.show(undefined)} />}
        {fits.length > 1 && <TradeOff options={fits} shown={props.shown} show={props.show} />}
        {fits.length > 0 && (
          <section aria-label="What fits">
            <h2 className="section-title">What these conductors can carry</h2>
            <p className="quiet">
              {fits.length} ways of {byStrategy(fits).length} kinds, the best of each kind first. Each was simulated in every state that it
              can reach before it was put here.
            </p>
            <p className="quiet">
              Made of <Link to="/devices">these device models</Link>.
            </p>
            <ol className="options">
              {byStrategy(fits).map((of) => (
                <Fitting key={of[0]?.strategy} options={of} shown={props.shown} show={props.show} marked={marked} mark={mark} />
              ))}
            </ol>
          </section>
        )}
        {compared.length > 0 && (
          <div className="compare-bar" role="status">
            <span>{compared.length === 1 ? "One is marked; mark another to compare." : `${compared.length} are marked.`}</span>
            <button type="button" className="button" onClick={() => setMarked([])}>
              Clear
            </button>
            {compared.length > 1 && (
              <Link className="button strong" to={{ pathname: `/circuits/${circuit.id}/compare`, search: `?o=${compared.join(",")}` }}>
                Compare side by side
              </Link>
            )}
          </div>
        )}
        {!faulty && not.length > 0 && (
          <section aria-label="What does not fit">
            <h2 className="section-title">What does not fit, and why</h2>
            <ul className="options">
              {byStrategy(not).map((of) => (
                <li key={of[0]?.strategy} className="option unfit">
                  {byReasons(of).map((alike) => (
                    <div key={alike[0]?.id} className="unfit-one">
                      {[...new Set(alike.map((o) => o.title))].map((title) => (
                        <h3 key={title}>{title}</h3>
                      ))}
                      <ul className="understood">
                        {alike[0]?.reasons?.map((r) => (
                          <li key={r.text}>{r.text}</li>
                        ))}
                      </ul>
                    </div>
                  ))}
                </li>
              ))}
            </ul>
          </section>
        )}
      </Current>
    </div>
  );
}
