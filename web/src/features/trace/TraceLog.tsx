import { Undo2 } from "lucide-react";
import type { Schemas } from "../../api/client";
import { useWork } from "../circuit/work";
import { look } from "../../ui/look";
import { Tool } from "../../ui/Tool";

const clock = new Intl.DateTimeFormat(undefined, { hour: "2-digit", minute: "2-digit", day: "numeric", month: "short" });

/** Every reading with its time, what it left, and the way to take it back. */
export function TraceLog(props: { log: Schemas["LogEntry"][]; clash: number[] }) {
  const { change, busy } = useWork();
  return (
    <section className={look.chapter} aria-label="Readings">
      <h2>Readings</h2>
      {props.log.length === 0 && <p className="text-soft">None yet. Each stands here with its time, and can be taken back.</p>}
      <ol className="trace-log [counter-reset:reading]">
        {props.log.map((entry) => (
          <li
            key={entry.index}
            className={`flex items-start gap-3 border-t border-rule py-2.5 [counter-increment:reading] before:min-w-[1.4rem] before:text-soft before:tabular-nums before:content-[counter(reading)] ${props.clash.includes(entry.index) ? "clashes border-l-6 border-l-ink pl-2.5" : ""}`}
          >
            <div className="flex-1">
              {props.clash.includes(entry.index) && <strong>Clashes: </strong>}
              <p>{entry.text}</p>
              <p>
                <strong>{entry.words}</strong>
                <span className="text-soft">
                  {" "}
                  {entry.worlds >= 0 ? `· left ${entry.worlds}` : ""}
                  {entry.time ? ` · ${clock.format(new Date(entry.time))}` : ""}
                </span>
              </p>
              {entry.remark && <p className="italic">{entry.remark}</p>}
            </div>
            <Tool
              icon={Undo2}
              label={`Take back reading ${entry.index + 1}`}
              disabled={busy}
              onClick={() => change({ do: "edit", edit: { op: "unobserve", index: entry.index } })}
            />
          </li>
        ))}
      </ol>
    </section>
  );
}
