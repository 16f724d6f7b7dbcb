import type { Option, Schemas } from "../../api/client";
import { useWork } from "../circuit/work";
import { Fold } from "../../ui/Fold";
import { look } from "../../ui/look";

/** Options that fail for the same reasons together. */
function byReasons(options: Option[]): [string[], Option[]][] {
  const out = new Map<string, Option[]>();
  for (const o of options) {
    const why = o.reasons?.map((r) => r.text).join("\n") ?? "";
    out.set(why, [...(out.get(why) ?? []), o]);
  }
  return [...out].map(([why, of]) => [why.split("\n"), of]);
}

/** What does not fit: first the cables that are too thin and what they bar, then every refusal in words. */
export function Unfit(props: { options: Option[]; narrow: Schemas["Narrow"][] }) {
  const { circuit, pointed, point } = useWork();
  return (
    <section aria-label="What does not fit" className="my-4">
      <h2 className={look.title}>What does not fit, and why</h2>
      {props.narrow.length > 0 && (
        <ul className="grid gap-2">
          {props.narrow.map((n) => {
            const ends = circuit.document.cables
              .filter((k) => n.cables.includes(k.id))
              .flatMap((k) => k.cores.map((c) => `${k.id}.${c}@${n.a}`));
            const on = ends.length > 0 && ends.every((e) => pointed.includes(e));
            return (
              <li key={n.a + n.b} className="border border-rule bg-sheet px-3 py-1">
                <button
                  type="button"
                  aria-pressed={on}
                  className="min-h-11 w-full cursor-pointer text-left font-semibold"
                  onClick={() => point(on ? [] : ends)}
                >
                  {n.text}
                </button>
                <ul className="flex flex-wrap gap-x-5 gap-y-0.5 pb-1.5">
                  {n.bars.map((b) => (
                    <li key={b.family}>
                      {b.familyName}{" "}
                      <span className="text-soft">
                        {b.colours ? `needs ${b.needs} of other colours` : `needs ${b.needs}`}
                        {b.fitting === 1 ? "; 1 other of the kind fits" : b.fitting > 1 ? `; ${b.fitting} others of the kind fit` : ""}
                      </span>
                    </li>
                  ))}
                </ul>
              </li>
            );
          })}
        </ul>
      )}
      <Fold className="mt-2" title={`Each of the ${props.options.length} in words`}>
        <ul className="options">
          {byReasons(props.options).map(([why, alike]) => (
            <li key={why.join()} className="border-t border-ink py-3.5">
              {[...new Set(alike.map((o) => o.title))].map((title) => (
                <h3 key={title}>{title}</h3>
              ))}
              <ul className={look.dashes}>
                {why.map((text) => (
                  <li key={text}>{text}</li>
                ))}
              </ul>
            </li>
          ))}
        </ul>
      </Fold>
    </section>
  );
}
