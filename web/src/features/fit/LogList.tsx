import type { Fitting } from "../../api/fitting";
import { Fold } from "../../ui/Fold";
import { useDates } from "../../ui/settings";

/** The log, the last entry first. Nothing in it is ever changed. */
export function LogList({ fitting }: { fitting: Fitting }) {
  const written = useDates();
  return (
    <Fold title={`The log: ${fitting.entries.length} ${fitting.entries.length === 1 ? "entry" : "entries"}`}>
      <ol className="trace-log">
        {[...fitting.entries].reverse().map((e) => (
          <li key={e.number} className="grid grid-cols-[2rem_1fr] gap-2 border-t border-rule py-1.5">
            <span className="text-right text-soft tabular-nums">{e.number}</span>
            <span>
              {e.words}
              {e.value ? ` · ${e.value}` : ""}
              {e.kind === "done" && e.note ? ` · ${e.note}` : ""}
              <span className="block text-sm text-soft">
                {e.time ? written(e.time, true) : ""}
                {e.by ? ` · ${e.by}` : ""}
              </span>
            </span>
          </li>
        ))}
      </ol>
    </Fold>
  );
}
