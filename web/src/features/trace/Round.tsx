import { useState } from "react";
import type { Schemas } from "../../api/client";
import { look } from "../../ui/look";
import { Segments } from "../../ui/Segments";
import { useWork } from "../circuit/work";

/** Several tests with power, wires, switches and lamps as they are: one row each, entered in one go. */
export function Round(props: { next: Schemas["NextTest"]; locked: boolean }) {
  const { change } = useWork();
  const { round, rows } = props.next;
  const [said, setSaid] = useState<Record<number, string>>({});
  const answers = (i: number): [string, string][] => [
    ...(rows[i]?.answers ?? []).map((a): [string, string] => [String(a.reading), a.words]),
    ["unclear", "cannot tell"],
  ];
  const reading = (i: number) => rows[i]?.answers.find((a) => String(a.reading) === said[i])?.reading ?? "unclear";
  const entered = round.flatMap((test, i) => (said[i] === undefined ? [] : [{ ...test, confirms: undefined, reading: reading(i) }]));
  const [first, ...more] = entered;
  return (
    <section aria-label="The round" className="grid gap-1 border-t border-rule pt-2">
      <p className="text-soft">As all stands now: {round.length} readings. Leave out what you cannot reach.</p>
      <ol>
        {round.map((test, i) => (
          <li key={JSON.stringify(test)} className="border-b border-rule py-1.5">
            <p className="pb-1 font-semibold">
              {i + 1}. {rows[i]?.measure}
            </p>
            <Segments
              quiet
              label={`${i + 1}. ${rows[i]?.measure ?? ""}`}
              value={said[i] ?? ""}
              options={answers(i)}
              set={(to) => setSaid((now) => ({ ...now, [i]: to }))}
            />
          </li>
        ))}
      </ol>
      <button
        type="button"
        className={`${look.strong} min-h-14 justify-center text-lg`}
        disabled={props.locked || !first}
        onClick={() => first && change({ do: "edit", edit: { op: "observe", observation: first, ...(more.length > 0 ? { more } : {}) } })}
      >
        {entered.length === 0 ? "Enter the readings" : `Enter ${entered.length === 1 ? "1 reading" : `${entered.length} readings`}`}
      </button>
    </section>
  );
}
