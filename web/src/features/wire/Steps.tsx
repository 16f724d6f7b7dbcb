import { Current } from "../../ui/Current";
import { useState } from "react";
import { useSearchParams } from "react-router";
import type { Schemas } from "../../api/client";
import { useProcedure } from "../../api/queries";
import { useWork } from "../circuit/work";
import { Notice, Waiting } from "../../ui/Notice";
import { useKeys } from "../../ui/useKeys";
import { BoxFront } from "./BoxFront";

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
        <p className="empty">Nothing has been changed by then: there is nothing to put back.</p>
      )}
      {procedure.data && procedure.data.steps.length > 0 && (
        <Current stale={procedure.isPlaceholderData} what="the steps are worked out anew">
          <List key={`${circuit.revision} ${back}`} procedure={procedure.data} forth={back === undefined} bench={bench} />
        </Current>
      )}
      <div className="row pad">
        <label className="field inline">
          <span>List</span>
          <select value={back === undefined ? "" : "back"} onChange={(e) => setBack(e.target.value === "" ? undefined : total)}>
            <option value="">the steps to the plan</option>
            <option value="back">put it back</option>
          </select>
        </label>
        {back !== undefined && (
          <label className="field inline">
            <span>after step</span>
            <select value={back} onChange={(e) => setBack(Number(e.target.value))}>
              {forth.data?.steps.map((s) => (
                <option key={s.number} value={s.number}>
                  {s.number}
                </option>
              ))}
            </select>
          </label>
        )}
      </div>
      <p className="quiet pad">{forth.data?.known}</p>
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
  const all = procedure.phases
    .filter((phase) => steps.some((s) => s.phase === phase.id))
    .map((phase) => (
      <section key={phase.id} aria-label={phase.text}>
        <h3>{phase.text}</h3>
        <ol>
          {steps
            .filter((s) => s.phase === phase.id)
            .map((s) => (
              <li key={s.number} data-step={s.number}>
                <button
                  type="button"
                  className={s.kind === "gate" || s.kind === "on" || s.kind === "off" ? "step gate" : "step"}
                  aria-pressed={s.number === at}
                  onClick={() => pick(s)}
                >
                  <span className="step-number">{s.number}</span>
                  <span>
                    {s.where && <strong>{s.where}. </strong>}
                    {s.text}
                  </span>
                </button>
              </li>
            ))}
        </ol>
      </section>
    ));
  return (
    <div className={bench ? "grid gap-4 px-4 pb-4" : "steps"}>
      <aside className="step-now" aria-label="The step that is picked">
        {step && (
          <>
            <h3>
              Step {step.number} of {steps.length}
              {step.where ? ` · ${step.where}` : ""}
            </h3>
            <p role="status">{step.text}</p>
            <div className="row">
              <button type="button" className="button" disabled={at === 1} onClick={() => pick(steps[at - 2])}>
                <kbd aria-hidden>,</kbd> Step before
              </button>
              <button type="button" className="button strong" disabled={at === steps.length} onClick={() => pick(steps[at])}>
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
      <details>
        <summary className="min-h-11 cursor-pointer py-2 underline underline-offset-3">All {steps.length} steps</summary>
        {all}
      </details>
    </div>
  );
}

/** The ends of a step one by one, with screw, mark and stripping length. */
function Facts({ step }: { step: Step }) {
  const { word } = useWork();
  const wires = step.wires ?? [];
  if (wires.length === 0) return null;
  return (
    <table className="step-wires">
      <thead>
        <tr>
          <th scope="col">Conductor</th>
          <th scope="col">Goes to</th>
          <th scope="col">Is</th>
          <th scope="col">Screw</th>
        </tr>
      </thead>
      <tbody>
        {wires.map((w) => (
          <tr key={w.end}>
            <td>{w.letters ? `${w.letters} · ${w.cable}` : "pigtail"}</td>
            <td>{w.towards || "—"}</td>
            <td>
              {w.role === "" ? "not known" : w.role === "unused" ? "spare" : word(w.role)}
              {w.mark ? `, marked ${word(w.mark)}` : ""}
            </td>
            <td>
              {w.screw || (step.connector ? step.connector.pieces.map((holds) => `connector for ${holds}`).join(" and ") : "—")}
              {w.stripMm ? `, strip ${w.stripMm} mm` : ""}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
