import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useUpkeep } from "../../api/use";
import { Fold } from "../../ui/Fold";
import { look } from "../../ui/look";
import { Notice } from "../../ui/Notice";
import { useMoney, usePriced, useSettings } from "../../ui/settings";
import { Amount } from "../../ui/Amount";

const plot = { w: 620, h: 260, left: 60, right: 130, top: 12, bottom: 26 };
const dashes = { single: undefined, kit: "7 4", lamps: "2 4" };

/** One device against several against smart lamps, over years. */
export function Upkeep({ circuit }: { circuit: string }) {
  const [assumed, setAssumed] = useState<Schemas["UpkeepAssumptions"]>();
  const { currency } = useSettings();
  const answer = useUpkeep(circuit, assumed, currency);
  const priced = usePriced();
  const money = useMoney();
  const data = answer.data;
  if (!data) return <Notice error={answer.error} />;
  const a = data.assumptions;
  const set = (to: Partial<typeof a>) => setAssumed({ ...a, ...to });
  const most = Math.max(1, ...data.lines.flatMap((l) => l.costs));
  const x = (year: number) => plot.left + ((plot.w - plot.left - plot.right) * year) / a.years;
  const y = (cost: number) => plot.top + (plot.h - plot.top - plot.bottom) * (1 - cost / most);
  return (
    <section className={look.chapter} aria-label="Over years">
      <h2>Over {a.years} years</h2>
      <Notice error={answer.error} />
      {data.lines.length === 0 ? (
        <p className={look.empty}>Nothing fits yet that could be held against something else.</p>
      ) : (
        <>
          <div className={look.front} tabIndex={0} role="region" aria-label="Cost over years">
            <svg width={plot.w} height={plot.h} role="img" aria-label={data.says.join(" ")}>
              <g className="text-[0.8rem]">
                {[0, most / 2, most].map((v) => (
                  <g key={v}>
                    <line x1={plot.left} x2={plot.w - plot.right} y1={y(v)} y2={y(v)} stroke="var(--rule)" />
                    <text x={plot.left - 6} y={y(v) + 4} textAnchor="end" fill="currentColor">
                      {money(Math.round(v))}
                    </text>
                  </g>
                ))}
                {data.lines.map((l) => (
                  <g key={l.option}>
                    <polyline
                      points={l.costs.map((cost, year) => `${x(year)},${y(cost)}`).join(" ")}
                      fill="none"
                      stroke="currentColor"
                      strokeWidth={2}
                      strokeDasharray={dashes[l.sort]}
                    />
                    <text x={x(a.years) + 8} y={y(l.costs.at(-1) ?? 0) + 4} fill="currentColor">
                      {l.name}
                    </text>
                  </g>
                ))}
                {[0, a.years].map((year) => (
                  <text key={year} x={x(year)} y={plot.h - 8} textAnchor="middle" fill="currentColor">
                    {year}
                  </text>
                ))}
              </g>
            </svg>
          </div>
          <ul className={look.dashes}>
            {data.lines.map((l) => (
              <li key={l.option}>
                <strong>{l.name}</strong>: {l.title}: {money(Number((l.costs.at(-1) ?? 0).toFixed(2)))} (
                {l.parts.map((p) => `${p.what} ${money(Number(p.cost.toFixed(2)))}`).join(", ")})
              </li>
            ))}
            {data.says.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
        </>
      )}
      <Fold title="What is assumed">
        <div className={look.fields}>
          <Amount label="Years" most={30} value={a.years} set={(years) => set({ years: Math.round(years) })} />
          <Amount label={priced("Price of a kWh")} value={a.energy} set={(energy) => set({ energy })} />
          <Amount label={priced("Price of a battery")} value={a.battery} set={(battery) => set({ battery })} />
          <Amount label={priced("An hour of work (0: none)")} value={a.hour} set={(hour) => set({ hour })} />
          <Amount label={priced("A plain lamp")} value={a.lamp} set={(lamp) => set({ lamp })} />
          <Amount label="Lamps" value={a.lamps} set={(lamps) => set({ lamps: Math.round(lamps) })} />
          <Amount label="A lamp lasts, years" value={a.lampYears} set={(lampYears) => set({ lampYears })} />
          <Amount label={priced("One unit of the catalogue is")} value={a.catalogueFor} set={(catalogueFor) => set({ catalogueFor })} />
        </div>
      </Fold>
    </section>
  );
}
