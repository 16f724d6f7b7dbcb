import { Check, Circle, Lock, Minus, TriangleAlert } from "lucide-react";
import type { Schemas } from "../../api/client";
import type { Fitting } from "../../api/fitting";
import { Fold } from "../../ui/Fold";

const signs = {
  done: { Icon: Check, word: "done" },
  skipped: { Icon: Minus, word: "left out" },
  differs: { Icon: TriangleAlert, word: "not as drawn" },
  open: { Icon: Circle, word: "may be done" },
  locked: { Icon: Lock, word: "waits" },
} as const;

/** Every step with how far it is, by stay. */
export function StepList(props: { fitting: Fitting; at: number; pick: (step: number) => void }) {
  const { steps, states, cards } = props.fitting;
  const settled = states.filter((s) => s.status !== "open" && s.status !== "locked").length;
  return (
    <Fold title={`All ${steps.length} steps, ${settled} settled`}>
      {cards.map((c) => (
        <section key={c.id} aria-label={c.title}>
          <h3>{c.title}</h3>
          <ol>
            {steps
              .filter((s) => c.steps.includes(s.number))
              .map((s) => (
                <Line
                  key={s.number}
                  step={s}
                  placed={!c.box}
                  status={states[s.number - 1]?.status ?? "locked"}
                  here={s.number === props.at}
                  pick={props.pick}
                />
              ))}
          </ol>
        </section>
      ))}
    </Fold>
  );
}

function Line(props: {
  step: Schemas["Step"];
  placed: boolean;
  status: Schemas["StepState"]["status"];
  here: boolean;
  pick: (step: number) => void;
}) {
  const { Icon, word } = signs[props.status];
  return (
    <li>
      <button
        type="button"
        className="step grid min-h-11 w-full cursor-pointer grid-cols-[2rem_1.5rem_1fr] items-baseline gap-1.5 border-b border-rule py-2 pr-2 text-left aria-pressed:bg-room aria-pressed:outline-2 aria-pressed:-outline-offset-2 aria-pressed:outline-ink"
        aria-pressed={props.here}
        onClick={() => props.pick(props.step.number)}
      >
        <span className="text-right font-[650]">{props.step.number}</span>
        <Icon aria-label={word} size={16} className="self-center" />
        <span className={props.status === "locked" ? "text-soft" : undefined}>
          {props.placed && props.step.where && <strong>{props.step.where}. </strong>}
          {props.step.text}
        </span>
      </button>
    </li>
  );
}
