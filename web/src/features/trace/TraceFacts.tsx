import { OctagonX } from "lucide-react";
import type { Schemas } from "../../api/client";
import { useAhead, type Prefer } from "../../api/queries";
import { conventions, inabilities } from "../../api/terms.gen";
import type { Answer } from "./answer";
import { among } from "../../ui/among";
import { useWork } from "../circuit/work";

/** What readings showed that changes how one works on. */
export function TraceFindings({ answer }: { answer: Answer }) {
  return answer.findings.map((f) => (
    <p key={f.code + f.at.join()} className="live-warning" role="alert">
      <OctagonX aria-hidden size={20} className="shrink-0" />
      <span>{f.text}</span>
    </p>
  ));
}

/** In how many places the light is switched, and what this person cannot do. */
export function TraceQuestions({ answer }: { answer: Answer }) {
  const { change, busy } = useWork();
  return (
    <section className="block" aria-label="Before you test">
      <div className="fields">
        <label className="field">
          <span>In how many places can the light be switched?</span>
          <select
            value={answer.controls ?? 0}
            disabled={busy}
            onChange={(e) => change({ do: "edit", edit: { op: "set-circuit", controls: Number(e.target.value) } })}
          >
            <option value={0}>not known</option>
            {Array.from({ length: 10 }, (_, i) => (
              <option key={i + 1} value={i + 1}>
                {i + 1}
              </option>
            ))}
          </select>
        </label>
        <label className="field">
          <span>Guard against one wrong reading</span>
          <select
            value={answer.confirm}
            disabled={busy}
            onChange={(e) =>
              change({ do: "edit", edit: { op: "set-circuit", confirm: among(["always", "free", "never"], e.target.value) } })
            }
          >
            <option value="free">where it takes no walk</option>
            <option value="always">always</option>
            <option value="never">never</option>
          </select>
        </label>
      </div>
      <fieldset className="ways">
        <legend>I cannot do this</legend>
        {inabilities.map(([way, text]) => (
          <label key={way} className="check">
            <input
              type="checkbox"
              disabled={busy}
              checked={answer.cannot.includes(way)}
              onChange={(e) =>
                change({
                  do: "edit",
                  edit: { op: "cannot", ways: e.target.checked ? [...answer.cannot, way] : answer.cannot.filter((w) => w !== way) },
                })
              }
            />
            {text}
          </label>
        ))}
      </fieldset>
    </section>
  );
}

/** What was neither seen nor measured, and which box to open next. */
export function Assumed({ answer }: { answer: Answer }) {
  const { circuit, change, busy } = useWork();
  const accepted = circuit.document.accepted ?? [];
  return (
    <section className="block" aria-label="Assumed">
      {answer.openNext && (
        <>
          <h2>Open next</h2>
          <p className="measure">{answer.openNext.text}</p>
        </>
      )}
      <h2>Assumed, not measured</h2>
      <ul className="understood">
        {answer.assumed.map((a) => (
          <li key={a.text}>
            {a.text}
            {a.at.length > 0 && (
              <span className="quiet">
                {" "}
                {a.at.slice(0, 4).join(", ")}
                {a.at.length > 4 ? ` and ${a.at.length - 4} more` : ""}
              </span>
            )}
            {accepted.some((x) => a.at.length === 1 && x.end === a.at[0]) && (
              <button
                type="button"
                className="button small"
                disabled={busy}
                onClick={() => change({ do: "edit", edit: { op: "accept", end: a.at[0], as: "" } })}
              >
                Take back
              </button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** The practitioners' ways beside what is proposed, in walks to the panel. */
export function Walks({ answer, prefer, waiting }: { answer: Answer; prefer: Prefer; waiting: boolean }) {
  const { circuit, word } = useWork();
  const later = useAhead(circuit.id, circuit.revision, prefer, !waiting && !answer.ahead && !answer.done && !answer.contradiction);
  const { ahead, schools } = answer.ahead ? answer : { ahead: later.data?.ahead, schools: later.data?.schools ?? {} };
  if (!ahead || answer.done) return null;
  const said = (o: Schemas["Operations"]) => (o.worst === o.mean ? `${o.worst}` : `${o.worst} at worst, ${o.mean} in the mean`);
  return (
    <p className="quiet">
      Still to come: {said(ahead)} {ahead.worst === 1 ? "walk" : "walks"} to the {word("panel")}.{" "}
      {conventions.map(([s, name]) => `${name}: ${schools[s] ? said(schools[s]) : "does not settle it"}`).join(" · ")}
    </p>
  );
}
