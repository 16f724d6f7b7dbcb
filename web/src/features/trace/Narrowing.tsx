import type { Schemas } from "../../api/client";
import { coreText } from "../circuit/Core";
import { useWork } from "../circuit/work";
import type { Answer } from "./answer";
import { Bar, percent } from "./Bar";

/** What a test settles: each conductor that it tells something of, as it is now and as each answer would leave it. */
export function Narrowing(props: { outcomes: Schemas["Outcome"][]; conductors: Answer["conductors"] }) {
  const { circuit } = useWork();
  const outcomes = props.outcomes.filter((o) => o.worlds > 0);
  const told = props.conductors.filter((c) => outcomes.some((o) => o.narrows?.[c.end]));
  if (told.length === 0) return null;
  return (
    <table className="min-w-0 table-fixed text-sm">
      <caption className="py-1 text-left text-soft">What this settles</caption>
      <thead>
        <tr>
          <th scope="col">Conductor</th>
          <th scope="col">now</th>
          {outcomes.map((o) => (
            <th key={o.words} scope="col">
              {o.words}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {told.map((c) => (
          <tr key={c.end}>
            <th scope="row">{circuit.reading.names.ends[c.end] ?? coreText(c.core)}</th>
            <Cell odds={c.odds} />
            {outcomes.map((o) => (
              <Cell key={o.words} odds={o.narrows?.[c.end] ? sorted(o.narrows[c.end]) : c.odds} />
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** The likeliest role in words, all of them as a bar. */
function Cell({ odds }: { odds: { role: string; odds: number }[] }) {
  const { word } = useWork();
  const [first] = odds;
  return (
    <td>
      <Bar odds={odds} />
      {first && (odds.length === 1 ? <strong>{word(first.role)}</strong> : `${word(first.role)} ${percent(first.odds)}`)}
    </td>
  );
}

/** Roles by their odds, the likeliest first. */
const sorted = (by: Record<string, number> = {}) =>
  Object.entries(by)
    .map(([role, odds]) => ({ role, odds }))
    .sort((a, b) => b.odds - a.odds);
