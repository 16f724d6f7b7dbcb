import { Trash2 } from "lucide-react";
import type { Use } from "../../api/use";
import { Amount } from "../../ui/Amount";
import { Choice } from "../../ui/Choice";
import { look } from "../../ui/look";
import { Tick } from "../../ui/Tick";
import { Tool } from "../../ui/Tool";

/** Where the light is, when somebody is about, evenings on which nobody is, and what turns it on whatever else. */
export function WhoIsThere(props: { use: Use; lights: string[]; reaching: string[]; change: (to: Partial<Use>) => void }) {
  const { use, change } = props;
  const away = use.away;
  return (
    <section className={look.chapter}>
      <h2>Place and people</h2>
      <div className={look.fields}>
        <label className={look.field}>
          <span>Time zone</span>
          <input value={use.zone} maxLength={60} placeholder="Europe/Lisbon" onChange={(e) => change({ zone: e.target.value })} />
        </label>
        <Amount label="Degrees north" least={-90} most={90} value={use.latitude} set={(latitude) => change({ latitude })} />
        <Amount label="Degrees east" least={-180} most={180} value={use.longitude} set={(longitude) => change({ longitude })} />
      </div>
      {use.home.map((h, i) => (
        <div key={i} className={look.fields}>
          <label className={look.field}>
            <span>Somebody is about from</span>
            <input
              type="time"
              value={h.from}
              onChange={(e) => change({ home: use.home.map((x, k) => (k === i ? { ...x, from: e.target.value } : x)) })}
            />
          </label>
          <label className={look.field}>
            <span>to</span>
            <input
              type="time"
              value={h.to}
              onChange={(e) => change({ home: use.home.map((x, k) => (k === i ? { ...x, to: e.target.value } : x)) })}
            />
          </label>
          <Tool icon={Trash2} label={`Remove hours ${i + 1}`} onClick={() => change({ home: use.home.filter((_, k) => k !== i) })} />
        </div>
      ))}
      <div className={look.row}>
        <button type="button" className={look.button} onClick={() => change({ home: [...use.home, { from: "18:00", to: "22:30" }] })}>
          Hours when somebody is about
        </button>
        <button
          type="button"
          className={look.button}
          onClick={() => change({ inputs: [...use.inputs, { name: "Smoke detector", kind: "smoke", lights: [] }] })}
        >
          A detector or an alarm
        </button>
      </div>
      {use.inputs.map((input, i) => (
        <div key={i} className={look.fields}>
          <label className={look.field}>
            <span>Turns the light on until it is reset</span>
            <input
              value={input.name}
              maxLength={80}
              required
              onChange={(e) => change({ inputs: use.inputs.map((x, k) => (k === i ? { ...x, name: e.target.value } : x)) })}
            />
          </label>
          <Choice
            above
            label={`Input ${i + 1}`}
            value={input.kind}
            options={[
              ["smoke", "smoke detector"],
              ["alarm", "alarm"],
            ]}
            set={(kind) =>
              change({ inputs: use.inputs.map((x, k) => (k === i ? { ...x, kind: kind === "smoke" ? "smoke" : "alarm" } : x)) })
            }
          />
          <Amount
            label="turns it on at, % (0: full)"
            most={100}
            value={input.level ?? 0}
            set={(level) => change({ inputs: use.inputs.map((x, k) => (k === i ? { ...x, level: Math.round(level) } : x)) })}
          />
          <fieldset className="flex basis-full flex-wrap items-center gap-x-5">
            <legend className="float-left mr-5 py-2.5 text-sm text-soft">Lights of its group; none marked: all of the job</legend>
            {[...new Set([...props.lights, ...input.lights])].map((light) => (
              <Tick
                key={light}
                checked={input.lights.includes(light)}
                set={(on) =>
                  change({
                    inputs: use.inputs.map((x, k) =>
                      k === i ? { ...x, lights: on ? [...x.lights, light] : x.lights.filter((y) => y !== light) } : x,
                    ),
                  })
                }
              >
                {light}
              </Tick>
            ))}
          </fieldset>
          <Tool icon={Trash2} label={`Remove input ${i + 1}`} onClick={() => change({ inputs: use.inputs.filter((_, k) => k !== i) })} />
        </div>
      ))}
      {props.reaching.length > 0 && (
        <>
          <p className="pt-3">Entered with other lights of the job, and turns this one on too:</p>
          <ul className={look.dashes}>
            {props.reaching.map((name) => (
              <li key={name}>{name}</li>
            ))}
          </ul>
        </>
      )}
      <Tick checked={away !== undefined} set={(on) => change({ away: on ? { from: today(0), to: today(14), seed: 1 } : undefined })}>
        Nobody is home for a while: lit as if somebody were
      </Tick>
      {away && (
        <div className={look.fields}>
          <label className={look.field}>
            <span>First evening</span>
            <input type="date" required value={away.from} onChange={(e) => change({ away: { ...away, from: e.target.value } })} />
          </label>
          <label className={look.field}>
            <span>Last evening</span>
            <input type="date" required value={away.to} onChange={(e) => change({ away: { ...away, to: e.target.value } })} />
          </label>
          <label className={look.field}>
            <span>Seed: the same gives the same evenings</span>
            <input
              type="number"
              min={0}
              value={away.seed}
              onChange={(e) => change({ away: { ...away, seed: Math.max(0, Math.round(Number(e.target.value))) } })}
            />
          </label>
        </div>
      )}
    </section>
  );
}

/** A date so many days from today, as dates are sent. */
function today(days: number) {
  const at = new Date();
  at.setDate(at.getDate() + days);
  return at.toISOString().slice(0, 10);
}
