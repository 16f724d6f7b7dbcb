import { Current } from "../../ui/Current";
import { useEffect, useRef, useState } from "react";
import type { Schemas } from "../../api/client";
import { useProcedure } from "../../api/queries";
import { useWork } from "../circuit/work";
import { Notice, Waiting } from "../../ui/Notice";
import { useKeys } from "../../ui/useKeys";
import { BoxFront } from "./BoxFront";

type Step = Schemas["Step"];

/** Every step in its order. One is picked: its ends are shown in its box. From any step there is the way back. */
export function Steps() {
  const { circuit } = useWork();
  const [back, setBack] = useState<number>();
  const procedure = useProcedure(circuit.id, circuit.revision, back);
  const forth = useProcedure(circuit.id, circuit.revision);
  const total = forth.data?.steps.length ?? 0;
  return (
    <>
      <Notice error={procedure.error} />
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
      {procedure.isPending && <Waiting what="Working out the steps" />}
      {procedure.data && procedure.data.steps.length === 0 && (
        <p className="empty">Nothing has been changed by then: there is nothing to put back.</p>
      )}
      {procedure.data && procedure.data.steps.length > 0 && (
        <Current stale={procedure.isPlaceholderData} what="the steps are worked out anew">
          <List key={`${circuit.revision} ${back}`} procedure={procedure.data} />
        </Current>
      )}
    </>
  );
}

function List({ procedure }: { procedure: Schemas["Procedure"] }) {
  const { circuit, point } = useWork();
  const [at, setAt] = useState(1);
  const list = useRef<HTMLDivElement>(null);
  const { steps } = procedure;
  const step = steps[at - 1];
  const pick = (to: Step | undefined) => {
    if (!to) return;
    setAt(to.number);
    point(to.at ?? []);
  };
  useKeys({ n: () => pick(steps[at]), p: () => pick(steps[at - 2]) });
  useEffect(() => {
    if (at === 1) return; // nobody has picked one yet
    list.current?.querySelector(`[data-step="${at}"]`)?.scrollIntoView({ block: "nearest" });
  }, [at]);
  const seen = step?.box && [...circuit.document.boxes, ...(circuit.choice?.document.boxes ?? [])].some((b) => b.id === step.box);
  return (
    <div className="steps">
      <div ref={list}>
        {procedure.phases
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
          ))}
      </div>
      <aside className="step-now" aria-label="The step that is picked">
        {step && (
          <>
            <h3>
              Step {step.number} of {steps.length}
            </h3>
            <p role="status">{step.text}</p>
            <Facts step={step} />
            {step.box && seen && step.phase !== "link" && (
              <BoxFront box={step.box} of={step.drawn} label={`${step.where ?? step.box}, from the front`} />
            )}
            <div className="row">
              <button type="button" className="button" disabled={at === 1} onClick={() => pick(steps[at - 2])}>
                <kbd aria-hidden>P</kbd> Step before
              </button>
              <button type="button" className="button strong" disabled={at === steps.length} onClick={() => pick(steps[at])}>
                <kbd aria-hidden>N</kbd> Next step
              </button>
            </div>
          </>
        )}
      </aside>
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
