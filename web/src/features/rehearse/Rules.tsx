import { Trash2 } from "lucide-react";
import type { Schemas } from "../../api/client";
import { Choice } from "../../ui/Choice";
import { look } from "../../ui/look";
import { Tool } from "../../ui/Tool";

type Automation = Schemas["Automation"];
type Rule = NonNullable<Automation["rules"]>[number];
type Speaker = Schemas["Rehearsal"]["speakers"][number];

/** Links, rules and mirrors in plain words, to be changed; the verdict follows at once. */
export function Rules(props: {
  automation: Automation;
  said: Schemas["Rehearsal"]["said"];
  speakers: Speaker[];
  ways: string[];
  changed: boolean;
  set: (to: Automation | undefined) => void;
}) {
  const rules = props.automation.rules ?? [];
  const mirrors = props.automation.mirrors ?? [];
  const tells = props.speakers.filter((s) => s.events.length > 0);
  const hears = props.speakers.filter((s) => s.listener);
  const write = (next: Rule[]) => props.set({ ...props.automation, rules: next });
  const change = (i: number, to: Partial<Rule>) => write(rules.map((r, k) => (k === i ? { ...r, ...to } : r)));
  const fresh = () => {
    const from = tells[0];
    const to = hears[0];
    const event = from?.events[0];
    if (!from || !to || !event) return;
    let n = rules.length + 1;
    while (rules.some((r) => r.id === `r${n}`)) n++;
    write([
      ...rules,
      {
        id: `r${n}`,
        when: { device: from.device, event: event.gesture },
        then: { device: to.device, action: "on" },
        via: props.ways[0] ?? "hub",
      },
    ]);
  };
  const { said } = props;
  if (said.links.length + rules.length + mirrors.length === 0 && (tells.length === 0 || hears.length === 0)) return null;
  return (
    <section aria-label="Rules" className="grid gap-2">
      <h2>Rules{props.changed && ", changed here"}</h2>
      <ol>
        {said.links.map((text) => (
          <li key={text} className="border-t border-rule py-2">
            {text}
          </li>
        ))}
        {rules.map((r, i) => {
          const from = tells.find((s) => s.device === r.when.device);
          return (
            <li key={r.id} className="flex flex-wrap items-center gap-x-2 gap-y-1 border-t border-rule py-2">
              <p className="basis-full">{said.rules[i] ?? ""}</p>
              <Choice
                quiet
                label={`Rule ${i + 1}: where`}
                value={r.when.device}
                options={tells.map((s) => [s.device, s.name])}
                set={(device) => {
                  const event = tells.find((s) => s.device === device)?.events;
                  const same = event?.find((e) => e.gesture === r.when.event) ?? event?.[0];
                  change(i, { when: { device, event: same?.gesture ?? r.when.event } });
                }}
              />
              <Choice
                quiet
                label={`Rule ${i + 1}: what happens there`}
                value={r.when.event}
                options={(from?.events ?? []).map((e) => [e.gesture, e.text])}
                set={(event) => change(i, { when: { ...r.when, event } })}
              />
              <span aria-hidden>→</span>
              <Choice
                quiet
                label={`Rule ${i + 1}: who is told`}
                value={r.then.device}
                options={hears.map((s) => [s.device, s.name])}
                set={(device) => change(i, { then: { ...r.then, device } })}
              />
              <Choice
                quiet
                label={`Rule ${i + 1}: what it is told`}
                value={r.then.action}
                options={[
                  ["on", "on"],
                  ["off", "off"],
                  ["toggle", "the other way"],
                ]}
                set={(action) => change(i, { then: { device: r.then.device, action } })}
              />
              {r.then.action === "on" && (r.then.level || hears.some((s) => s.device === r.then.device && s.dims)) && (
                <Choice
                  quiet
                  label={`Rule ${i + 1}: at which level`}
                  value={String(r.then.level ?? 0)}
                  options={levels(r.then.level)}
                  set={(to) => change(i, { then: { device: r.then.device, action: "on", ...(to === "0" ? {} : { level: Number(to) }) } })}
                />
              )}
              <Tool icon={Trash2} label={`Remove rule ${i + 1}`} onClick={() => write(rules.filter((_, k) => k !== i))} />
            </li>
          );
        })}
        {mirrors.map((m, i) => (
          <li key={`${m.from} ${m.to}`} className="flex flex-wrap items-center gap-2 border-t border-rule py-2">
            <p className="flex-1">{said.mirrors[i] ?? ""}</p>
            <button
              type="button"
              className={look.small}
              onClick={() => props.set({ ...props.automation, mirrors: mirrors.map((x, k) => (k === i ? { ...x, both: !x.both } : x)) })}
            >
              {m.both ? "One way only" : "Both ways"}
            </button>
            <Tool
              icon={Trash2}
              label={`Remove mirror ${i + 1}`}
              onClick={() => props.set({ ...props.automation, mirrors: mirrors.filter((_, k) => k !== i) })}
            />
          </li>
        ))}
      </ol>
      <div className={look.row}>
        {tells.length > 0 && hears.length > 0 && (
          <button type="button" className={look.button} onClick={fresh}>
            One rule more
          </button>
        )}
        <button type="button" className={look.button} disabled={!props.changed} onClick={() => props.set(undefined)}>
          As they were
        </button>
      </div>
    </section>
  );
}

/** The levels of the usual table of taps, those between, and the one that stands. */
function levels(now: number | undefined): [string, string][] {
  const usual = [5, 10, 25, 50, 75, 100];
  const all = now && !usual.includes(now) ? [...usual, now].sort((a, b) => a - b) : usual;
  return [["0", "at the last level"], ...all.map((level): [string, string] => [String(level), `at ${level} %`])];
}
