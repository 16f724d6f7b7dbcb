import { Core } from "../circuit/Core";
import type { Answer } from "./answer";
import { boxName, useWork } from "../circuit/work";
import { Bar, mayBe, percent } from "./Bar";
import { Fold } from "../../ui/Fold";
import { upper } from "../survey/CircuitFacts";
import { look } from "../../ui/look";

/** Every conductor that can be seen, with what it may be and how likely. */
export function Odds({ answer }: { answer: Answer }) {
  const { circuit, box, setBox } = useWork();
  const boxes = [...new Set(answer.conductors.map((c) => c.box))];
  const here = (b: string) => answer.conductors.filter((c) => c.box === b && !(c.odds.length === 1 && c.odds[0]?.role === "ground"));
  const facts = answer.cables;
  const names = circuit.reading.names;
  return (
    <section className={look.chapter} aria-label="Every conductor">
      <h2>Every conductor</h2>
      {answer.worlds === 0 && <p className="text-soft">Nothing can be said of any while readings or records clash.</p>}
      {boxes.map((b) => (
        <div key={b} className={b === box ? "border-l-4 border-ink pl-3" : undefined}>
          <h3>
            <button
              type="button"
              className="min-h-11 cursor-pointer underline underline-offset-3"
              aria-pressed={b === box}
              onClick={() => setBox(b)}
            >
              {boxName(circuit, b)}
            </button>
          </h3>
          <Rows conductors={here(b).filter((c) => c.odds.length > 1)} />
          {here(b).some((c) => c.odds.length === 1) && (
            <Fold title={`${here(b).filter((c) => c.odds.length === 1).length} certain`}>
              <Rows conductors={here(b).filter((c) => c.odds.length === 1)} />
            </Fold>
          )}
        </div>
      ))}
      {facts.length > 0 && (
        <>
          <h3>Cables</h3>
          <ul className={look.dashes}>
            {facts.map((f) => (
              <li key={f.stubs.join() + (f.to ?? "")}>
                {f.to
                  ? `${upper(names.cables[f.stubs[0] ?? ""] ?? "")} goes to ${names.boxes[f.to] ?? "a box that is not recorded"}`
                  : `${upper(f.stubs.map((k) => names.cables[k]).join(" and "))} are one cable`}
                {f.odds < 1 ? `, ${percent(f.odds)}` : ""}
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}

/** Conductors with what they are, or what they may be: as a bar and in words. */
function Rows({ conductors }: { conductors: Answer["conductors"] }) {
  const { circuit, word, change, busy } = useWork();
  if (conductors.length === 0) return null;
  return (
    <table className="min-w-0 [&_td]:border-t [&_td]:border-rule [&_td]:py-1 [&_td]:pr-2.5 [&_td]:pl-0 [&_td]:align-top">
      <thead className="sr-only">
        <tr>
          <th scope="col">Core</th>
          <th scope="col">Cable</th>
          <th scope="col">What it is</th>
        </tr>
      </thead>
      <tbody>
        {conductors.map((c) => (
          <tr key={c.end}>
            <td className="w-22 whitespace-nowrap">
              <Core core={c.core} />
            </td>
            <td className="w-16 text-soft">{circuit.reading.names.to[`${c.cable}@${c.box}`]}</td>
            <td className={c.odds.length === 1 ? "w-full font-[650]" : "w-full text-soft"}>
              {c.odds.length === 1 ? (
                word(c.odds[0]?.role ?? "")
              ) : (
                <>
                  <Bar odds={c.odds} />
                  {mayBe(c.odds, word)}
                </>
              )}{" "}
              {c.takeAs && (
                <button
                  type="button"
                  className={look.small}
                  disabled={busy}
                  onClick={() =>
                    change({
                      do: "edit",
                      edit: { op: "accept", end: c.end, as: c.takeAs, odds: c.odds.find((o) => o.role === c.takeAs)?.odds },
                    })
                  }
                >
                  Take it as {word(c.takeAs)}
                </button>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
