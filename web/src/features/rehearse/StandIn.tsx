import type { What } from "../../api/rehearsal";
import { useHub, useHubActs } from "../../api/use";
import { Fold } from "../../ui/Fold";
import { look } from "../../ui/look";
import { Notice } from "../../ui/Notice";

/** The stand-in hub: a broker on this machine with these devices, which any MQTT client may press and hear. */
export function StandIn({ circuit, what }: { circuit: string; what: What }) {
  const hub = useHub(true);
  const acts = useHubActs();
  const live = hub.data?.circuit === circuit ? hub.data.live : undefined;
  const busy = acts.start.isPending || acts.stop.isPending;
  return (
    <section aria-label="Stand-in hub" className="grid grid-cols-1 gap-2 border border-ink p-3">
      <h2>Stand-in hub</h2>
      <p className="text-soft">
        A broker on this machine with these devices and rules at work. Any MQTT client may press at a place, ask a device, or cut the hub.
        It knows the schedules, alarms and detectors that are kept with the use of the light.
      </p>
      <Notice error={acts.start.error ?? acts.stop.error ?? acts.press.error} />
      <div className={`${look.row} items-center`}>
        <button type="button" className={look.button} disabled={busy} onClick={() => acts.start.mutate({ circuit, what })}>
          {live ? "Start it anew with these rules" : "Start it"}
        </button>
        {live && (
          <button type="button" className={look.button} disabled={busy} onClick={() => acts.stop.mutate()}>
            Stop it
          </button>
        )}
        {live && (
          <strong role="status">
            {live.address}: the light is {live.shown.lit ? "lit" : "dark"}
            {live.down ? `, ${live.down} is cut` : ""}
          </strong>
        )}
      </div>
      {live && (
        <>
          <ul className="grid gap-2 sm:grid-cols-2">
            {live.shown.places.map((p) => (
              <li key={p.device} className="border border-rule p-2">
                {p.name}: {p.switch || "no switch of its own"}
                {p.astray ? ", out of step" : ""}
                <span className={look.row}>
                  {p.gestures.slice(0, 2).map((g) => (
                    <button
                      key={g.gesture}
                      type="button"
                      className={look.button}
                      aria-label={`${g.text} at ${p.name}, through the broker`}
                      onClick={() => acts.press.mutate({ device: p.device, gesture: g.gesture })}
                    >
                      {g.text}
                    </button>
                  ))}
                </span>
              </li>
            ))}
          </ul>
          <div className={look.row}>
            {live.shown.moment.queues.map((q) => (
              <button
                key={q.via}
                type="button"
                className={look.pressed}
                aria-pressed={live.down === q.via}
                onClick={() => acts.press.mutate({ cut: live.down === q.via ? "" : q.via })}
              >
                {live.down === q.via ? `${q.via} is cut` : `Cut the ${q.via}`}
              </button>
            ))}
          </div>
          {live.time && (
            <div className="grid gap-2 border border-rule p-2">
              <p>
                Its clock says {clock(live.time)}.{" "}
                {live.next
                  ? `Next, at ${clock(live.next.at)}: ${live.next.by}, ${live.next.on ? `on at ${live.next.level ?? 100} %` : "off"}.`
                  : "No schedule is due within a year."}
              </p>
              <div className={look.row}>
                {live.next && (
                  <button type="button" className={look.button} onClick={() => live.next && acts.press.mutate({ time: live.next.at })}>
                    Let it be then
                  </button>
                )}
                {live.alarms.map((a) => (
                  <button
                    key={a.number}
                    type="button"
                    className={look.pressed}
                    aria-pressed={a.raised}
                    onClick={() => acts.press.mutate({ input: { number: a.number, on: !a.raised } })}
                  >
                    {a.raised ? `Reset ${a.name}` : `${a.name} goes off`}
                  </button>
                ))}
              </div>
            </div>
          )}
          <ol className="max-h-60 overflow-y-auto font-mono text-sm" tabIndex={0} aria-label="What went over the broker">
            {[...live.lines].reverse().map((l, i) => (
              <li key={live.lines.length - i} className="wrap-anywhere">
                {l.topic} {l.text}
              </li>
            ))}
          </ol>
          <Fold title="Topics">
            <ul className={look.dashes}>
              {(hub.data?.topics ?? []).map((t) => (
                <li key={t.topic} className="wrap-anywhere">
                  <code>{t.topic}</code> {t.payload}: {t.who}
                </li>
              ))}
            </ul>
          </Fold>
        </>
      )}
    </section>
  );
}

/** A moment as the clock on the wall there says it, with its day: it is written with its own zone. */
const clock = (at: string) => `${at.slice(11, 16)} on ${at.slice(0, 10)}`;
