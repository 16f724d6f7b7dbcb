import { Check, X } from "lucide-react";
import type { Option, Schemas } from "../../api/client";
import { OptionDetails } from "./OptionDetails";
import { TestsFirst } from "./TestsFirst";
import { boxName, useWork } from "../circuit/work";
import { useMoney } from "../../ui/settings";
import { look } from "../../ui/look";

const metrics: [keyof Schemas["Metrics"], string][] = [
  ["boxesTouched", "boxes opened"],
  ["endsMoved", "ends touched"],
  ["remarked", "ends re-marked"],
  ["devices", "new devices"],
  ["price", "price of devices"],
  ["minutes", "minutes, about"],
];

/** All of the option that is picked, but for its drawing. */
export function OptionCard({ option }: { option: Option }) {
  const { circuit } = useWork();
  const money = useMoney();
  const madeOf = [...new Set(option.devices?.map((d) => d.name))].join(" with ");
  return (
    <div className="grid gap-3">
      <p>{option.about}</p>
      <TestsFirst option={option} />
      <Wished option={option} />
      <dl className="flex flex-wrap gap-x-6 gap-y-2">
        {metrics.map(([key, label]) => (
          <Metric key={key} label={label}>
            {key === "price" ? money(option.metrics?.price) : (option.metrics?.[key] ?? 0)}
          </Metric>
        ))}
        <Metric label="work in">{option.boxesTouched?.map((b) => boxName(circuit, b)).join(", ")}</Metric>
        <Metric label="made of">{madeOf}</Metric>
      </dl>
      <OptionDetails option={option} />
    </div>
  );
}

function Metric(props: { label: string; children: React.ReactNode }) {
  return (
    <div className="flex flex-col-reverse">
      <dt className="text-sm text-soft">{props.label}</dt>
      <dd className="font-semibold">{props.children}</dd>
    </div>
  );
}

/** Takes an option as the plan, or takes that back. */
export function ChooseButton({ option }: { option: Option }) {
  const { circuit, change, busy } = useWork();
  const chosen = circuit.choice?.option.id === option.id;
  return (
    <button
      type="button"
      className={chosen ? look.button : look.strong}
      aria-disabled={busy}
      onClick={() => !busy && change({ do: "choose", option: chosen ? "" : option.id })}
    >
      {chosen ? (
        <>
          <Check aria-hidden size={18} /> Chosen — take back
        </>
      ) : (
        "Choose this"
      )}
    </button>
  );
}

/** Which wishes an option meets. */
function Wished({ option }: { option: Option }) {
  if (!option.wishes?.length) return null;
  return (
    <ul className="flex flex-wrap gap-x-4" aria-label="Wishes met">
      {option.wishes.map((w) => (
        <li key={w.wish} className={w.met ? "inline-flex items-center gap-1" : "inline-flex items-center gap-1 text-soft"}>
          {w.met ? <Check aria-hidden size={16} /> : <X aria-hidden size={16} />}
          <span className="sr-only">{w.met ? "met: " : "not met: "}</span>
          {w.text}
          {w.how === "must" && !w.met ? " (a must)" : ""}
        </li>
      ))}
    </ul>
  );
}
