import type { Shown } from "../../api/rehearsal";
import { look } from "../../ui/look";
import { Segments } from "../../ui/Segments";

/** What is under way: each way lets its first message arrive, lose itself or come twice; slowly by itself, or by hand. */
export function UnderWay(props: {
  now: Shown;
  busy: boolean;
  name: (device: string) => string;
  pace: string;
  setPace: (to: string) => void;
  arrive: (way: string, fate?: "lost" | "twice") => void;
  all: () => void;
}) {
  const { now } = props;
  return (
    <section aria-label="Under way" className="border border-ink p-3">
      <div className="flex flex-wrap items-center justify-between gap-2">
        <h2>Under way</h2>
        <Segments
          label="Messages arrive"
          value={props.pace}
          options={[
            ["hand", "by hand"],
            ["slow", "slowly"],
          ]}
          set={props.setPace}
        />
      </div>
      {now.quiet && <p className="text-soft">Nothing. All is quiet.</p>}
      {now.moment.queues
        .filter((q) => q.messages.length > 0)
        .map((q, n) => (
          <div key={q.via} className="flex flex-wrap items-center gap-2 py-1">
            <strong>{q.via}</strong>
            <ol className="flex flex-wrap gap-2">
              {q.messages.slice(0, 12).map((m, i) => (
                <li key={i} className="border border-rule bg-sheet px-2 py-1">
                  {props.name(m.to)}: {m.action}
                </li>
              ))}
            </ol>
            {q.messages.length > 12 && <span>and {q.messages.length - 12} more</span>}
            <button type="button" className={look.button} disabled={props.busy} onClick={() => props.arrive(q.via)}>
              Let the first arrive {n === 0 && <kbd aria-hidden>.</kbd>}
            </button>
            <button type="button" className={look.button} disabled={props.busy} onClick={() => props.arrive(q.via, "lost")}>
              Lose it
            </button>
            <button type="button" className={look.button} disabled={props.busy} onClick={() => props.arrive(q.via, "twice")}>
              Let it come twice
            </button>
          </div>
        ))}
      {!now.quiet && (
        <button type="button" className={look.strong} disabled={props.busy} onClick={props.all}>
          Let all arrive
        </button>
      )}
    </section>
  );
}
