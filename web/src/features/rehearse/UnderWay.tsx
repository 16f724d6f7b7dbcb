import type { Shown } from "../../api/rehearsal";
import { look } from "../../ui/look";
import { Segments } from "../../ui/Segments";

/** So many messages of a way are listed. */
const few = 12;

/** What messages go over, between the places and the light, with what is under way there: each way lets its first message
 * arrive, lose itself or come twice; slowly by itself, or by hand. It is as high with messages as without: the paddles below
 * do not move under a finger. */
export function UnderWay(props: {
  now: Shown;
  ways: string[];
  down: string;
  busy: boolean;
  name: (device: string) => string;
  pace: string;
  setPace: (to: string) => void;
  arrive: (way: string, fate?: "lost" | "twice") => void;
  all: () => void;
}) {
  const { now } = props;
  const first = now.moment.queues.find((q) => q.messages.length > 0)?.via;
  return (
    <section aria-label="Under way" className="border-2 border-dashed border-soft px-3 py-2">
      <div className="flex flex-wrap items-center justify-between gap-x-4">
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
      {props.ways.map((way) => {
        const messages = now.moment.queues.find((q) => q.via === way)?.messages ?? [];
        const idle = props.busy || messages.length === 0;
        return (
          <div key={way} className="grid gap-1 border-t border-rule py-2">
            <p>
              <strong className="capitalize">{way}</strong>
              {props.down === way && ", cut: what is sent over it is lost"}
            </p>
            <ol className="flex min-h-9 flex-wrap items-center gap-2">
              {messages.slice(0, few).map((m, i) => (
                <li key={i} className={`border border-ink bg-paper px-2 py-1 ${i === 0 ? "font-semibold" : ""}`}>
                  {props.name(m.to)}: {m.action}
                  {m.level ? `, ${m.level} %` : ""}
                </li>
              ))}
              {messages.length > few && <li>and {messages.length - few} more</li>}
              {messages.length === 0 && <li className="text-soft">nothing</li>}
            </ol>
            <div className={look.row}>
              <button type="button" className={look.button} disabled={idle} onClick={() => props.arrive(way)}>
                Let the first arrive {(way === first || first === undefined) && <kbd aria-hidden>.</kbd>}
              </button>
              <button type="button" className={look.button} disabled={idle} onClick={() => props.arrive(way, "lost")}>
                Lose it
              </button>
              <button type="button" className={look.button} disabled={idle} onClick={() => props.arrive(way, "twice")}>
                Let it come twice
              </button>
            </div>
          </div>
        );
      })}
      <p className="flex flex-wrap items-center gap-x-3">
        <button type="button" className={look.strong} disabled={props.busy || now.quiet} onClick={props.all}>
          Let all arrive
        </button>
        {now.quiet && <span className="text-soft">All is quiet.</span>}
      </p>
    </section>
  );
}
