import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useRamp } from "../../api/rehearsal";
import { Amount } from "../../ui/Amount";
import { look } from "../../ui/look";
import { Notice } from "../../ui/Notice";
import { Tick } from "../../ui/Tick";

type Held = Schemas["Held"];

const plot = { w: 620, h: 200, left: 40, top: 10, bottom: 24 };

/** A paddle that is held at one of two dimmers: how both move, and whether they come to rest. */
export function Ramp({ both, measured }: { both: boolean; measured: Schemas["Rehearsal"]["measured"] }) {
  const dimmer = { ramp: 2, least: 0, every: 0.2, echo: true };
  const [held, setHeld] = useState<Held>({
    first: dimmer,
    second: dimmer,
    both,
    for: 1,
    from: 0,
    quickest: measured?.quickest ?? 0.1,
    slowest: measured?.slowest ?? 0.5,
  });
  const ramp = useRamp(held, true);
  const set = (to: Partial<Held>) => setHeld({ ...held, ...to });
  const points = ramp.data?.points ?? [];
  const end = Math.max(1, ramp.data?.seconds ?? 1);
  const x = (seconds: number) => plot.left + ((plot.w - plot.left) * seconds) / end;
  const y = (level: number) => plot.top + (plot.h - plot.top - plot.bottom) * (1 - level / 100);
  const line = (of: "first" | "second") => points.map((p) => `${x(p.seconds).toFixed(1)},${y(p[of]).toFixed(1)}`).join(" ");
  return (
    <section aria-label="Up held at a dimmer" className="grid grid-cols-1 gap-2">
      <Notice error={ramp.error} />
      <div className={look.fields}>
        <Amount most={30} label="Up is held, s" value={held.for} set={(to) => set({ for: to })} />
        <Amount label="From level, %" value={held.from} most={100} set={(to) => set({ from: to })} />
        <Amount
          most={30}
          label="The first, dark to full, s"
          value={held.first.ramp}
          set={(to) => set({ first: { ...held.first, ramp: to } })}
        />
        <Amount most={30} label="The second, s" value={held.second.ramp} set={(to) => set({ second: { ...held.second, ramp: to } })} />
        <Amount
          label="Lowest level of the second, %"
          value={held.second.least}
          most={100}
          set={(to) => set({ second: { ...held.second, least: to } })}
        />
        <Amount
          most={30}
          label="Each tells its level every, s (0: at the end)"
          value={held.first.every}
          set={(to) => set({ first: { ...held.first, every: to }, second: { ...held.second, every: to } })}
        />
        <Amount most={30} label="A message takes from, s" value={held.quickest} set={(to) => set({ quickest: to })} />
        <Amount most={30} label="to, s" value={held.slowest} set={(to) => set({ slowest: to })} />
      </div>
      <div className={look.row}>
        <Tick checked={held.both} set={(to) => set({ both: to })}>
          The first follows the second too
        </Tick>
        <Tick checked={held.first.echo} set={(to) => set({ first: { ...held.first, echo: to }, second: { ...held.second, echo: to } })}>
          Each tells also what it was told
        </Tick>
      </div>
      {ramp.data && (
        <>
          <p role="status" className="font-semibold">
            {ramp.data.text}
          </p>
          <div className={look.front} tabIndex={0} role="region" aria-label="Levels over time">
            <svg width={plot.w} height={plot.h} role="img" aria-label={ramp.data.text}>
              <g className="text-[0.8rem]">
                {[0, 50, 100].map((level) => (
                  <g key={level}>
                    <line x1={plot.left} x2={plot.w} y1={y(level)} y2={y(level)} stroke="var(--rule)" />
                    <text x={plot.left - 6} y={y(level) + 4} textAnchor="end" fill="currentColor">
                      {level}
                    </text>
                  </g>
                ))}
                <text x={plot.left} y={plot.h - 6} fill="currentColor">
                  0 s
                </text>
                <text x={plot.w - 4} y={plot.h - 6} textAnchor="end" fill="currentColor">
                  {ramp.data.seconds} s
                </text>
              </g>
              <polyline points={line("first")} fill="none" stroke="currentColor" strokeWidth={2} />
              <polyline points={line("second")} fill="none" stroke="currentColor" strokeWidth={2} strokeDasharray="5 4" />
            </svg>
          </div>
          <p className="text-soft">The line is the first, the dashes are the second.</p>
        </>
      )}
    </section>
  );
}
