import type { Shown } from "../../api/rehearsal";
import { look } from "../../ui/look";

/** One thing that happened: a gesture at a place, or a message of a way that arrived, was lost or came twice. */
export type Step = { text: string; place?: string; way?: string; to?: string; fate?: "lost" | "twice"; shown: Shown };

const row = 34;
const most = 14;

/** Letters of a name that are written above its line. */
const letters = 27;

/** What happened, from top to bottom: a line for each place, each way of messages and the light. */
export function TimeLine({ start, steps, ways }: { start: Shown; steps: Step[]; ways: string[] }) {
  const shown = steps.slice(-most);
  const first = steps.length - shown.length;
  const lines = [...start.places.map((p) => p.device), ...ways.map((w) => `way ${w}`), "light"];
  const names = [...start.places.map((p) => p.name), ...ways, "the light"];
  const written = names.map((name) => (name.length > letters ? `${name.slice(0, letters - 1)}…` : name));
  const column = Math.max(116, 7 * Math.max(...written.map((name) => name.length)) + 14);
  const x = (line: string) => column * (lines.indexOf(line) + 0.5);
  const y = (i: number) => 46 + row * (i + 0.5);
  const height = 46 + row * Math.max(1, shown.length) + 12;
  return (
    <section aria-label="What happened">
      <h2>What happened</h2>
      {steps.length === 0 && <p className="text-soft">Nothing yet. Press at a place.</p>}
      {steps.length > 0 && (
        <>
          <div className={look.front} tabIndex={0} role="region" aria-label="Time line">
            <svg width={column * lines.length} height={height} aria-hidden className="text-[0.8rem]">
              {lines.map((line, i) => (
                <g key={line}>
                  <text x={x(line)} y={18} textAnchor="middle" fill="currentColor">
                    {written[i]}
                  </text>
                  <line
                    x1={x(line)}
                    y1={28}
                    x2={x(line)}
                    y2={height}
                    stroke="var(--rule)"
                    strokeDasharray={line.startsWith("way") ? "3 3" : undefined}
                  />
                </g>
              ))}
              {shown.map((s, i) => {
                const from = s.place !== undefined ? x(s.place) : s.way !== undefined ? x(`way ${s.way}`) : undefined;
                const to = s.to !== undefined && s.fate !== "lost" ? x(s.to) : undefined;
                return (
                  <g key={first + i}>
                    {s.place !== undefined && <rect x={x(s.place) - 6} y={y(i) - 6} width={12} height={12} fill="currentColor" />}
                    {from !== undefined && to !== undefined && (
                      <path
                        d={`M ${from} ${y(i)} H ${to} m ${to > from ? -7 : 7} -4 l ${to > from ? 7 : -7} 4 l ${to > from ? -7 : 7} 4`}
                        stroke="currentColor"
                        strokeWidth={s.fate === "twice" ? 3 : 1.5}
                        fill="none"
                      />
                    )}
                    {s.fate === "lost" && from !== undefined && (
                      <path d={`M ${from - 5} ${y(i) - 5} l 10 10 m 0 -10 l -10 10`} stroke="currentColor" strokeWidth={2} />
                    )}
                    <circle cx={x("light")} cy={y(i)} r={7} stroke="currentColor" fill={s.shown.lit ? "currentColor" : "none"} />
                  </g>
                );
              })}
            </svg>
          </div>
          <ol className="list-decimal pl-10">
            {shown.map((s, i) => (
              <li key={first + i} value={first + i + 1}>
                {s.text}; the light is {s.shown.lit ? "lit" : "dark"}
              </li>
            ))}
          </ol>
        </>
      )}
    </section>
  );
}
