import { Trash2 } from "lucide-react";
import type { Use } from "../../api/use";
import { Choice } from "../../ui/Choice";
import { look } from "../../ui/look";
import { Tick } from "../../ui/Tick";
import { Tool } from "../../ui/Tool";

type Schedule = Use["schedules"][number];

const days: [Schedule["days"][number], string][] = [
  ["mon", "Mo"],
  ["tue", "Tu"],
  ["wed", "We"],
  ["thu", "Th"],
  ["fri", "Fr"],
  ["sat", "Sa"],
  ["sun", "Su"],
];

/** What turns the light on and off by the clock and by the sun. */
export function Schedules({ use, change }: { use: Use; change: (to: Partial<Use>) => void }) {
  const set = (i: number, to: Partial<Schedule>) => change({ schedules: use.schedules.map((s, k) => (k === i ? { ...s, ...to } : s)) });
  return (
    <section className={look.chapter}>
      <h2>Schedules</h2>
      {use.schedules.length === 0 && <p className="text-soft">None. The light is as people leave it.</p>}
      <ol>
        {use.schedules.map((s, i) => {
          const sun = s.at === "sunrise" || s.at === "sunset";
          return (
            <li key={i} className="border-t border-rule py-2">
              <div className={look.fields}>
                <label className={look.field}>
                  <span>Name</span>
                  <input value={s.name} maxLength={80} onChange={(e) => set(i, { name: e.target.value })} />
                </label>
                <Choice
                  above
                  label={`Schedule ${i + 1}: what`}
                  value={s.on ? "on" : "off"}
                  options={[
                    ["on", "turns on"],
                    ["off", "turns off"],
                  ]}
                  set={(to) => set(i, { on: to === "on", level: to === "on" ? s.level : undefined })}
                />
                <Choice
                  above
                  label={`Schedule ${i + 1}: when`}
                  value={sun ? s.at : "clock"}
                  options={[
                    ["clock", "at a time"],
                    ["sunrise", "by sunrise"],
                    ["sunset", "by sunset"],
                  ]}
                  set={(to) => set(i, to === "clock" ? { at: "18:00", offset: undefined } : { at: to, offset: 0 })}
                />
                {sun ? (
                  <label className={look.field}>
                    <span>Minutes after it</span>
                    <input
                      type="number"
                      min={-360}
                      max={360}
                      value={s.offset ?? 0}
                      onChange={(e) => set(i, { offset: Math.round(Number(e.target.value)) })}
                    />
                  </label>
                ) : (
                  <label className={look.field}>
                    <span>Time</span>
                    <input type="time" required value={s.at} onChange={(e) => set(i, { at: e.target.value })} />
                  </label>
                )}
                {s.on && (
                  <label className={look.field}>
                    <span>Level, %</span>
                    <input
                      type="number"
                      min={1}
                      max={100}
                      value={s.level ?? 100}
                      onChange={(e) => set(i, { level: Math.round(Number(e.target.value)) })}
                    />
                  </label>
                )}
              </div>
              <div className="flex flex-wrap items-center gap-x-3">
                {days.map(([day, name]) => (
                  <Tick
                    key={day}
                    checked={s.days.includes(day)}
                    set={(on) => set(i, { days: days.map(([d]) => d).filter((d) => (d === day ? on : s.days.includes(d))) })}
                  >
                    {name}
                  </Tick>
                ))}
                <Tool
                  icon={Trash2}
                  label={`Remove schedule ${i + 1}`}
                  onClick={() => change({ schedules: use.schedules.filter((_, k) => k !== i) })}
                />
              </div>
            </li>
          );
        })}
      </ol>
      <button
        type="button"
        className={look.button}
        onClick={() =>
          change({
            schedules: [...use.schedules, { name: "", days: days.map(([d]) => d), at: "18:00", on: use.schedules.length % 2 === 0 }],
          })
        }
      >
        One schedule more
      </button>
    </section>
  );
}
