import { Undo2 } from "lucide-react";
import type { Schemas } from "../../api/client";
import { useWork } from "../circuit/work";

const clock = new Intl.DateTimeFormat(undefined, { hour: "2-digit", minute: "2-digit", day: "numeric", month: "short" });

/** Every reading with its time, what it left, and the way to take it back. */
export function TraceLog(props: { log: Schemas["LogEntry"][]; clash: number[] }) {
  const { change, busy } = useWork();
  return (
    <section className="block" aria-label="Readings">
      <h2>Readings</h2>
      {props.log.length === 0 && <p className="quiet">None yet. Each stands here with its time, and can be taken back.</p>}
      <ol className="trace-log">
        {props.log.map((entry) => (
          <li key={entry.index} className={props.clash.includes(entry.index) ? "clashes" : undefined}>
            <div>
              {props.clash.includes(entry.index) && <strong>Clashes: </strong>}
              <p>{entry.text}</p>
              <p>
                <strong>{entry.words}</strong>
                <span className="quiet">
                  {" "}
                  {entry.worlds >= 0 ? `· left ${entry.worlds}` : ""}
                  {entry.time ? ` · ${clock.format(new Date(entry.time))}` : ""}
                </span>
              </p>
              {entry.remark && <p className="remark">{entry.remark}</p>}
            </div>
            <button
              type="button"
              className="tool"
              aria-label={`Take back reading ${entry.index + 1}`}
              disabled={busy}
              onClick={() => change({ do: "edit", edit: { op: "unobserve", index: entry.index } })}
            >
              <Undo2 aria-hidden size={18} />
            </button>
          </li>
        ))}
      </ol>
    </section>
  );
}
