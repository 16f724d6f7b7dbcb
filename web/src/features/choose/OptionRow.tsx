import { Check, Eye, EyeOff, X } from "lucide-react";
import type { Option, Schemas } from "../../api/client";
import { OptionDetails } from "./OptionDetails";
import { boxName, useWork } from "../circuit/work";

type Marking = {
  shown: string | undefined;
  show: (option: string | undefined) => void;
  marked: string[];
  mark: (option: string) => void;
};

const metrics: [keyof Schemas["Metrics"], string][] = [
  ["boxesTouched", "boxes opened"],
  ["endsMoved", "ends touched"],
  ["remarked", "ends re-marked"],
  ["devices", "new devices"],
  ["price", "price of devices"],
  ["minutes", "minutes, about"],
];

/** The names of an option's devices, each once. */
const madeOf = (option: Option) => [...new Set(option.devices?.map((d) => d.name))].join(" with ");

/** One kind of option: the best of it at large, the others below it. */
export function Fitting(props: { options: Option[] } & Marking) {
  const { circuit } = useWork();
  const [best, ...others] = props.options;
  if (!best) return null;
  const chosen = props.options.some((o) => o.id === circuit.choice?.option.id);
  return (
    <li className={chosen ? "option chosen" : "option"} aria-label={best.title}>
      <div className="option-head">
        <h3>{best.title}</h3>
        <Actions option={best} {...props} />
      </div>
      <p>{best.about}</p>
      <Wished option={best} />
      <dl className="metrics">
        {metrics.map(([key, label]) => (
          <div key={key}>
            <dt>{label}</dt>
            <dd>{best.metrics?.[key] ?? 0}</dd>
          </div>
        ))}
        <div className="grow">
          <dt>work in</dt>
          <dd>{best.boxesTouched?.map((b) => boxName(circuit, b)).join(", ")}</dd>
        </div>
        <div className="grow">
          <dt>made of</dt>
          <dd>{madeOf(best)}</dd>
        </div>
      </dl>
      <details>
        <summary>What it does, what fails when, and why each core</summary>
        <OptionDetails option={best} />
      </details>
      {others.length > 0 && (
        <details>
          <summary>{others.length} more of this kind: other places, other devices</summary>
          <ul className="more">
            {others.map((o) => (
              <li key={o.id} aria-label={o.title} className={circuit.choice?.option.id === o.id ? "chosen" : undefined}>
                <div className="option-head">
                  <span>
                    <strong>{o.title}</strong>
                    <span className="quiet">
                      {" "}
                      {madeOf(o)} · {o.metrics?.boxesTouched} boxes · {o.metrics?.endsMoved} ends · {o.metrics?.price}
                    </span>
                  </span>
                  <Actions option={o} {...props} />
                </div>
                <Wished option={o} />
              </li>
            ))}
          </ul>
        </details>
      )}
    </li>
  );
}

/** Show, compare, choose. */
function Actions({ option, shown, show, marked, mark }: { option: Option } & Marking) {
  const { circuit, change, busy } = useWork();
  const chosen = circuit.choice?.option.id === option.id;
  const open = shown === option.id;
  return (
    <span className="option-actions">
      <label className="tick">
        <input type="checkbox" checked={marked.includes(option.id)} onChange={() => mark(option.id)} />
        Compare<span className="sr-only">: {option.title}</span>
      </label>
      <button type="button" className="button" aria-pressed={open} onClick={() => show(open ? undefined : option.id)}>
        {open ? <EyeOff aria-hidden size={18} /> : <Eye aria-hidden size={18} />} {open ? "Hide" : "Show"}
      </button>
      {chosen ? (
        <button type="button" className="button" disabled={busy} onClick={() => change({ do: "choose", option: "" })}>
          <Check aria-hidden size={18} /> Chosen — take back
        </button>
      ) : (
        <button type="button" className="button strong" disabled={busy} onClick={() => change({ do: "choose", option: option.id })}>
          Choose
        </button>
      )}
    </span>
  );
}

/** Which wishes an option meets. */
function Wished({ option }: { option: Option }) {
  if (!option.wishes?.length) return null;
  return (
    <ul className="wished" aria-label="Wishes">
      {option.wishes.map((w) => (
        <li key={w.wish} className={w.met ? undefined : "missed"}>
          {w.met ? <Check aria-hidden size={16} /> : <X aria-hidden size={16} />}
          <span className="sr-only">{w.met ? "met: " : "not met: "}</span>
          {w.text}
          {w.how === "must" && !w.met ? " (a must)" : ""}
        </li>
      ))}
    </ul>
  );
}
