import { Lightbulb, LightbulbOff } from "lucide-react";
import { useState } from "react";
import { Link, useParams } from "react-router";
import type { Schemas } from "../../api/client";
import { useCircuit } from "../../api/queries";
import { useMove, useRehearsal, type Shown } from "../../api/rehearsal";
import { look } from "../../ui/look";
import { Notice, Waiting } from "../../ui/Notice";
import { Segments } from "../../ui/Segments";
import { Shell, Trail } from "../../ui/Shell";
import { Place } from "./Place";
import { Verdict } from "./Verdict";

type Move = NonNullable<Schemas["RehearsalMove"]["move"]>;
type Step = { text: string; shown: Shown };

/** Links that are not wires, tried by hand: press, let messages arrive in any order, cut a way, step back. */
export function RehearsePage() {
  const id = useParams().circuit ?? "";
  const circuit = useCircuit(id);
  const of = circuit.data?.choice ? "planned" : "found";
  const rehearsal = useRehearsal(id, circuit.data?.revision ?? "", of, circuit.data !== undefined);
  const move = useMove(id);
  const [down, setDown] = useState("");
  const [steps, setSteps] = useState<Step[]>([]);
  const start = rehearsal.data?.start;
  const now = steps.at(-1)?.shown ?? start;
  const act = (what: Move | undefined, text: string) => {
    if (!now || move.isPending) return;
    move.mutate(
      { of, moment: now.moment, ...(down ? { down } : {}), ...(what ? { move: what } : {}) },
      { onSuccess: (shown) => setSteps((before) => [...before, { text, shown }]) },
    );
  };
  const name = (device: string) => start?.places.find((p) => p.device === device)?.name ?? device;
  return (
    <Shell
      title="Rehearse"
      trail={
        <>
          <span aria-hidden>›</span>
          <Link to={`/circuits/${id}/choose`}>{circuit.data?.document.name ?? "Circuit"}</Link>
          <Trail>Rehearse</Trail>
        </>
      }
    >
      <section className={look.page}>
        <h1>Rehearse: {circuit.data?.document.name}</h1>
        <p className={look.lead}>
          Links that are not wires, tried before anybody buys them: of {of === "planned" ? "the chosen plan" : "the circuit as recorded"}.
        </p>
        <Notice error={circuit.error ?? rehearsal.error ?? move.error} />
        {rehearsal.isPending && <Waiting what="Going through every order of messages" />}
        {rehearsal.data && now && (
          <div className="grid gap-5 pt-4">
            {rehearsal.data.ways.length === 0 && (
              <p className={look.empty}>No message goes anywhere here: all that this circuit does it does over wires.</p>
            )}
            <div className="flex flex-wrap items-center gap-x-6 gap-y-2">
              <p role="status" className="flex items-center gap-2 text-xl font-semibold">
                {now.lit ? <Lightbulb aria-hidden /> : <LightbulbOff aria-hidden />} The light is {now.lit ? "lit" : "dark"}
              </p>
              {rehearsal.data.ways.length > 0 && (
                <Segments
                  label="Down"
                  value={down}
                  options={[["", "nothing"], ...rehearsal.data.ways.map((w): [string, string] => [w, w])]}
                  set={setDown}
                />
              )}
            </div>
            <ul className="grid gap-3 sm:grid-cols-2" aria-label="Places">
              {now.places.map((p) => (
                <Place
                  key={p.device}
                  place={p}
                  busy={move.isPending}
                  act={(g) => act({ device: p.device, gesture: g.gesture }, `${g.text} at ${p.name}`)}
                />
              ))}
            </ul>
            {rehearsal.data.ways.length > 0 && (
              <section aria-label="Under way" className="border border-ink p-3">
                <h2>Under way</h2>
                {now.quiet && <p className="text-soft">Nothing. All is quiet.</p>}
                {now.moment.queues
                  .filter((q) => q.messages.length > 0)
                  .map((q) => (
                    <div key={q.via} className="flex flex-wrap items-center gap-2 py-1">
                      <strong>{q.via}</strong>
                      <ol className="flex flex-wrap gap-2">
                        {q.messages.slice(0, 12).map((m, i) => (
                          <li key={i} className="border border-rule bg-sheet px-2 py-1">
                            {name(m.to)}: {m.action}
                          </li>
                        ))}
                      </ol>
                      {q.messages.length > 12 && <span>and {q.messages.length - 12} more</span>}
                      <button
                        type="button"
                        className={look.button}
                        disabled={move.isPending}
                        onClick={() => act({ deliver: q.via }, `the first of ${q.via} arrives`)}
                      >
                        Let the first arrive
                      </button>
                    </div>
                  ))}
                {!now.quiet && (
                  <button type="button" className={look.strong} disabled={move.isPending} onClick={() => act(undefined, "messages arrive")}>
                    Let all arrive
                  </button>
                )}
              </section>
            )}
            <div className={look.row}>
              <button
                type="button"
                className={look.button}
                disabled={steps.length === 0}
                onClick={() => setSteps((before) => before.slice(0, -1))}
              >
                Step back
              </button>
              <button type="button" className={look.button} disabled={steps.length === 0} onClick={() => setSteps([])}>
                From the start
              </button>
            </div>
            {steps.length > 0 && (
              <section aria-label="What happened">
                <h2>What happened</h2>
                <ol className="list-decimal pl-8">
                  {steps.slice(-12).map((s, i) => (
                    <li key={i} value={Math.max(0, steps.length - 12) + i + 1}>
                      {s.text}; the light is {s.shown.lit ? "lit" : "dark"}
                    </li>
                  ))}
                </ol>
              </section>
            )}
            <Verdict
              rehearsal={rehearsal.data}
              name={name}
              show={(code) => setSteps(rehearsal.data.witnesses[code] ?? [])}
              busy={move.isPending}
            />
          </div>
        )}
      </section>
    </Shell>
  );
}
