import type { Schemas } from "../../api/client";
import { look } from "../../ui/look";
import { useMoney, usePriced } from "../../ui/settings";

const plot = { w: 620, h: 220, left: 48, top: 12, bottom: 26 };
const letters = ["J", "F", "M", "A", "M", "J", "J", "A", "S", "O", "N", "D"];

/** A year of the light: energy by month, and what it comes to. */
export function YearPlot({ year }: { year: Schemas["UseYear"] }) {
  const money = useMoney();
  const priced = usePriced();
  const most = Math.max(0.001, ...year.months.map((m) => m.kWh));
  const room = (plot.w - plot.left) / 12;
  const y = (kWh: number) => plot.top + (plot.h - plot.top - plot.bottom) * (1 - kWh / most);
  const round = (x: number) => (x === 0 ? "0" : Math.abs(x) < 10 ? x.toFixed(2) : x.toFixed(0));
  const rows: [string, { kWh: number; cost: number }][] = [
    ["The year", year],
    ["of it with the light off", year.standby],
    ["Today's way", year.today],
    ["Saved against today", year.saved],
    ["Saved by the highest level", year.savedByCap],
  ];
  return (
    <section className={look.chapter} aria-label="The year">
      <h2>
        {year.year}: {round(year.kWh)} kWh, {money(Number(year.cost.toFixed(2)))}, {round(year.hours)} hours lit
      </h2>
      <div className={look.front} tabIndex={0} role="region" aria-label="Energy by month">
        <svg width={plot.w} height={plot.h} role="img" aria-label={year.months.map((m) => `${m.month}: ${round(m.kWh)} kWh`).join("; ")}>
          <g className="text-[0.8rem]">
            {[0, most / 2, most].map((v) => (
              <g key={v}>
                <line x1={plot.left} x2={plot.w} y1={y(v)} y2={y(v)} stroke="var(--rule)" />
                <text x={plot.left - 6} y={y(v) + 4} textAnchor="end" fill="currentColor">
                  {round(v)}
                </text>
              </g>
            ))}
            {year.months.map((m, i) => (
              <g key={m.month}>
                <rect x={plot.left + room * (i + 0.18)} width={room * 0.64} y={y(m.kWh)} height={y(0) - y(m.kWh)} fill="currentColor" />
                <text x={plot.left + room * (i + 0.5)} y={plot.h - 8} textAnchor="middle" fill="currentColor">
                  {letters[i]}
                </text>
              </g>
            ))}
          </g>
        </svg>
      </div>
      <table className="min-w-0 [&_td]:text-right [&_td]:tabular-nums [&_th:not(:first-child)]:text-right">
        <thead>
          <tr>
            <th scope="col">What</th>
            <th scope="col">kWh</th>
            <th scope="col">{priced("Price")}</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(([name, x]) => (
            <tr key={name}>
              <th scope="row">{name}</th>
              <td>{round(x.kWh)}</td>
              <td>{money(Number(x.cost.toFixed(2)))}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {year.conflicts.length > 0 && (
        <>
          <h3>What people will stumble over</h3>
          <ul className={look.dashes}>
            {year.conflicts.map((c) => (
              <li key={c.kind + c.text}>
                {c.text} {c.days === 1 ? `On ${c.first}.` : `On ${c.days} days, first on ${c.first}.`}
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}
