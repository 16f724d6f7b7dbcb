import { Current } from "../../ui/Current";
import { useState } from "react";
import { useSearchParams } from "react-router";
import type { Schemas } from "../../api/client";
import { useProcedure } from "../../api/queries";
import { useWork } from "../circuit/work";
import { Notice, Waiting } from "../../ui/Notice";
import { useKeys } from "../../ui/useKeys";
import { BoxFront } from "./BoxFront";
import { Facts } from "./Facts";
import { Fold } from "../../ui/Fold";
import { Choice } from "../../ui/Choice";
import { look } from "../../ui/look";

type Step = Schemas["Step"];

/** Every step in its order. One is picked: its ends are shown in its box. From any step there is the way back. */
export function Steps({ bench }: { bench: boolean }) {
  const { circuit, place } = useWork();
  const [back, setList] = useState<number>();
  const setBack = (after: number | undefined) => {
    setList(after);
    place({ step: undefined });
  };
  const procedure = useProcedure(circuit.id, circuit.revision, back);
  const forth = useProcedure(circuit.id, circuit.revision);
  const total = forth.data?.steps.length ?? 0;
  return (
    <>
      <Notice error={procedure.error} />
      {procedure.isPending && <Waiting what="Working out the steps" />}
      {procedure.data && procedure.data.steps.length === 0 && (
        <p className={look.empty}>Nothing has been changed by then: there is nothing to put back.</p>
      )}
      {procedure.data && procedure.data.steps.length > 0 && (
        <Current stale={procedure.isPlaceholderData} what="the steps are worked out anew">
          <List key={`${circuit.revision} ${back}`} procedure={procedure.data} forth={back === undefined} bench={bench} />
        </Current>
      )}
      <div className={`${look.row} px-6 py-2.5 max-sm:px-3.5`}>
        <Choice
          label="List"
          value={back === undefined ? "" : "back"}
          options={[
            ["", "the steps to the plan"],
            ["back", "put it back"],
          ]}
          set={(to) => setBack(to === "" ? undefined : total)}
        />
        {back !== undefined && (
          <Choice
            label="after step"
            value={String(back)}
            options={(forth.data?.steps ?? []).map((s) => [String(s.number), String(s.number)])}
            set={(to) => setBack(Number(to))}
          />
        )}
      </div>
      <p className="text-soft px-6 py-2.5 max-sm:px-3.5">{forth.data?.known}</p>
    </>
  );
}

function List({ procedure, forth, bench }: { procedure: Schemas["Procedure"]; forth: boolean; bench: boolean }) {
  const { circuit, point } = useWork();
  const [search] = useSearchParams();
  const { steps } = procedure;
  const [at, setAt] = useState(() => (forth ? Math.min(Math.max(1, Math.round(Number(search.get("step")) || 1)), steps.length) : 1));
  const step = steps[at - 1];
  const pick = (to: Step | undefined) => {
    if (!to) return;
    setAt(to.number);
    point(to.at ?? [], { step: String(to.number) });
  };
  useKeys({ ".": () => pick(steps[at]), ",": () => pick(steps[at - 2]) });
  const seen = step?.box && [...circuit.document.boxes, ...(circuit.choice?.document.boxes ?? [])].some((b) => b.id === step.box);
  const all = procedure.cards.map((card) => (
    <section key={card.id} aria-label={card.title}>
      <h3>{card.title}</h3>
      <ol>
        {steps
          .filter((s) => card.steps.includes(s.number))
          .map((s) => (
            <li key={s.number} data-step={s.number}>
              <button
                type="button"
                className={`step grid min-h-11 w-full cursor-pointer grid-cols-[2.4rem_1fr] gap-1.5 border-b border-rule py-2 pr-2 text-left aria-pressed:bg-room aria-pressed:outline-2 aria-pressed:-outline-offset-2 aria-pressed:outline-ink ${["gate", "on", "off"].includes(s.kind) ? "border-l-5 border-l-ink" : ""}`}
                aria-pressed={s.number === at}
                onClick={() => pick(s)}
              >
                <span className="pr-2 text-right font-[650]">{s.number}</span>
                <span>
                  {!card.box && s.where && <strong>{s.where}. </strong>}
                  {s.text}
                </span>
              </button>
            </li>
          ))}
      </ol>
    </section>
  ));
  return (
    <div className={`grid gap-4 ${bench ? "px-4 pb-4" : "px-6 pb-6 max-sm:px-3.5"}`}>
      <aside className="step-now border border-rule bg-room px-4 py-3 print:hidden" aria-label="The step that is picked">
        {step && (
          <>
            <h2 className="text-base">
              Step {step.number} of {steps.length}
              {step.where ? ` · ${step.where}` : ""}
            </h2>
            <p role="status" className="pb-2 text-[1.15rem] leading-[1.45]">
              {step.text}
            </p>
            <div className={look.row}>
              <button type="button" className={look.button} disabled={at === 1} onClick={() => pick(steps[at - 2])}>
                <kbd aria-hidden>,</kbd> Step before
              </button>
              <button type="button" className={look.strong} disabled={at === steps.length} onClick={() => pick(steps[at])}>
                <kbd aria-hidden>.</kbd> Next step
              </button>
            </div>
            <Facts step={step} />
            {step.box && seen && step.phase !== "link" && (
              <BoxFront box={step.box} of={step.drawn} label={`${step.where ?? step.box}, from the front`} />
            )}
          </>
        )}
      </aside>
      <Fold title={`All ${steps.length} steps`}>{all}</Fold>
    </div>
  );
}
