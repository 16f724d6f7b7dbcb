import { OctagonX } from "lucide-react";
import type { Schemas } from "../../api/client";
import { useAhead, type Prefer } from "../../api/queries";
import { conventions, inabilities } from "../../api/terms.gen";
import type { Answer } from "./answer";
import { among } from "../../ui/among";
import { useWork } from "../circuit/work";
import { Choice } from "../../ui/Choice";
import { Tick } from "../../ui/Tick";
import { Large, Warning } from "./Card";
import { look } from "../../ui/look";

/** What readings showed that changes how one works on. */
export function TraceFindings({ answer }: { answer: Answer }) {
  return answer.findings.map((f) => (
    <Warning key={f.code + f.at.join()} alert>
      <OctagonX aria-hidden size={20} className="shrink-0" />
      <span>{f.text}</span>
    </Warning>
  ));
}

/** In how many places the light is switched, and what this person cannot do. */
export function TraceQuestions({ answer }: { answer: Answer }) {
  const { change, busy } = useWork();
  return (
    <section className={look.chapter} aria-label="Before you test">
      <div className={look.fields}>
        <Choice
          above
          label="In how many places can the light be switched?"
          value={String(answer.controls ?? 0)}
          disabled={busy}
          options={[["0", "not known"], ...Array.from({ length: 10 }, (_, i): [string, string] => [String(i + 1), String(i + 1)])]}
          set={(controls) => change({ do: "edit", edit: { op: "set-circuit", controls: Number(controls) } })}
        />
        <Choice
          above
          label="Make sure"
          value={answer.confirm}
          disabled={busy}
          options={[
            ["free", "where it costs nothing"],
            ["always", "always"],
            ["never", "never"],
          ]}
          set={(how) => change({ do: "edit", edit: { op: "set-circuit", confirm: among(["always", "free", "never"], how) } })}
        />
      </div>
      <fieldset>
        <legend>I cannot do this</legend>
        {inabilities.map(([way, text]) => (
          <Tick
            key={way}
            disabled={busy}
            checked={answer.cannot.includes(way)}
            set={(so) =>
              change({ do: "edit", edit: { op: "cannot", ways: so ? [...answer.cannot, way] : answer.cannot.filter((w) => w !== way) } })
            }
          >
            {text}
          </Tick>
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
    <section className={look.chapter} aria-label="Assumed">
      {answer.openNext && (
        <>
          <h2>Open next</h2>
          <Large>{answer.openNext.text}</Large>
        </>
      )}
      <h2>Assumed, not measured</h2>
      <ul className={look.dashes}>
        {answer.assumed.map((a) => (
          <li key={a.text}>
            {a.text}
            {a.at.length > 0 && (
              <span className="text-soft">
                {" "}
                {a.at
                  .slice(0, 4)
                  .map((end) => circuit.reading.names.ends[end] ?? "")
                  .join(", ")}
                {a.at.length > 4 ? ` and ${a.at.length - 4} more` : ""}
              </span>
            )}
            {accepted.some((x) => a.at.length === 1 && x.end === a.at[0]) && (
              <button
                type="button"
                className={look.small}
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
  const ways: [string, string][] = [
    ["as proposed here", said(ahead)],
    ...conventions.map(([id, name]): [string, string] => [name, schools[id] ? said(schools[id]) : "does not settle it"]),
  ];
  return (
    <section aria-label="Walks still to come" className="my-3">
      <h2>Walks to the {word("panel")} still to come</h2>
      <dl className="grid grid-cols-[auto_1fr] gap-x-4">
        {ways.map(([way, walks], i) => (
          <div key={way} className={`col-span-2 grid grid-cols-subgrid border-t border-rule py-1 ${i === 0 ? "font-semibold" : ""}`}>
            <dt>{way}</dt>
            <dd>{walks}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
