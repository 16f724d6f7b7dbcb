import { Check, X } from "lucide-react";
import type { Option } from "../api/client";
import { usePlan } from "../api/queries";
import { Notice, Waiting } from "../ui/Notice";
import { boxName, useWork } from "./work";

/** What these conductors can carry, each proved; and what they cannot, and why. */
export function ChooseStage() {
  const { circuit } = useWork();
  const plan = usePlan(circuit.id, circuit.revision);
  const options = plan.data?.options ?? [];
  const fits = options.filter((o) => o.feasible);
  const not = options.filter((o) => !o.feasible);
  const reasons = not[0]?.reasons ?? [];
  const faulty = fits.length === 0 && not.length > 0 && not.every((o) => o.reasons?.[0]?.code === "circuit-faulty");
  return (
    <div className="stage">
      <Notice error={plan.error} />
      {plan.isPending && <Waiting what="Allocating and simulating" />}
      {plan.data && options.length === 0 && <p className="empty">There is nothing to plan on yet: record two switches and the lamp first.</p>}
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
      {fits.length > 0 && (
        <section aria-label="What fits">
          <h2 className="section-title">What these conductors can carry</h2>
          <p className="quiet">Least work first. Each was simulated in every state that it can reach before it was put here.</p>
          <ol className="options">
            {fits.map((o) => (
              <Fitting key={o.id} option={o} />
            ))}
          </ol>
        </section>
      )}
      {!faulty && not.length > 0 && (
        <section aria-label="What does not fit">
          <h2 className="section-title">What does not fit, and why</h2>
          <ul className="options">
            {not.map((o) => (
              <li key={o.id} className="option unfit">
                <h3>{o.title}</h3>
                <ul className="understood">
                  {o.reasons?.map((r) => (
                    <li key={r.text}>{r.text}</li>
                  ))}
                </ul>
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}

const metrics: [string, string][] = [
  ["boxesTouched", "boxes opened"],
  ["endsMoved", "ends touched"],
  ["remarked", "ends re-marked"],
  ["capped", "ends capped"],
  ["devices", "new devices"],
];

function Fitting({ option }: { option: Option }) {
  const { circuit, change, busy } = useWork();
  const chosen = circuit.choice?.option.id === option.id;
  return (
    <li className={chosen ? "option chosen" : "option"} aria-label={option.title}>
      <div className="option-head">
        <h3>{option.title}</h3>
        {chosen ? (
          <button type="button" className="button" disabled={busy} onClick={() => change({ do: "choose", option: "" })}>
            <Check aria-hidden size={18} /> Chosen — take back
          </button>
        ) : (
          <button type="button" className="button strong" disabled={busy} onClick={() => change({ do: "choose", option: option.id })}>
            Choose
          </button>
        )}
      </div>
      <p>{option.about}</p>
      <dl className="metrics">
        {metrics.map(([key, label]) => (
          <div key={key}>
            <dt>{label}</dt>
            <dd>{option.metrics?.[key] ?? 0}</dd>
          </div>
        ))}
        <div className="grow">
          <dt>work in</dt>
          <dd>{option.boxesTouched?.map((b) => boxName(circuit, b)).join(", ")}</dd>
        </div>
      </dl>
      <details>
        <summary>What was proved ({option.checks?.length} checks)</summary>
        <ul className="checks">
          {option.checks?.map((c) => (
            <li key={c.code}>
              {c.passed ? <Check aria-hidden size={16} /> : <X aria-hidden size={16} />} {c.text}
            </li>
          ))}
        </ul>
      </details>
    </li>
  );
}
