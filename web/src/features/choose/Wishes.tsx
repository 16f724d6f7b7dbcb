import { useId, useState } from "react";
import type { Schemas } from "../../api/client";
import { useWish, useWishes } from "../../api/queries";
import { Notice } from "../../ui/Notice";
import { FixedCores } from "./FixedCores";
import { useWork } from "../circuit/work";

type Wanted = Schemas["Wishes"];
type How = "must" | "nice" | "";

/** What the customer wants: each wish is a must, nice to have, or nothing. The order of the options follows at once. */
export function Wishes() {
  const { circuit } = useWork();
  const wishes = useWishes(circuit.id);
  const wish = useWish(circuit.id);
  if (!wishes.data) return <Notice error={wishes.error} />;
  const now = wishes.data.wishes;
  const keep = (next: Partial<Wanted>) => wish.mutate({ ...now, ...next });
  const of = (id: string): How => now.wishes?.[id] ?? "";
  const set = (id: string, how: How, more: Partial<Wanted> = {}) => {
    const others = Object.entries(now.wishes ?? {}).filter(([other]) => other !== id);
    keep({ wishes: Object.fromEntries(how === "" ? others : [...others, [id, how]]), ...more });
  };
  const count = (how: How) => Object.values(now.wishes ?? {}).filter((x) => x === how).length;
  const fixed = now.cores?.length ?? 0;
  const told = [
    count("must") > 0 ? `${count("must")} must be` : "",
    count("nice") > 0 ? `${count("nice")} would be nice` : "",
    fixed > 0 ? (fixed === 1 ? "one core is fixed" : `${fixed} cores are fixed`) : "",
  ]
    .filter(Boolean)
    .join(", ");
  return (
    <details className="block wishes" open={told !== "" || undefined}>
      <summary>
        What is wanted <span className="quiet">{told || "nothing said: the least work stands first"}</span>
      </summary>
      <Notice error={wish.error} />
      <div className="wish-list">
        {wishes.data.known.map((w) => (
          <OneWish
            key={w.id}
            text={w.text}
            how={of(w.id)}
            set={(how) => {
              if (w.id === "colour") set(w.id, how, { colour: now.colour ?? wishes.data.colours[0] });
              else if (w.id === "radio")
                set(w.id, how, { radio: now.radio?.length ? now.radio : wishes.data.radios.slice(0, 1).map((r) => r.id) });
              else if (w.id === "budget") set(w.id, how, { budget: now.budget || 100 });
              else set(w.id, how);
            }}
          >
            {w.id === "colour" && of("colour") !== "" && (
              <select className="input small" aria-label="Colour" value={now.colour} onChange={(e) => keep({ colour: e.target.value })}>
                {wishes.data.colours.map((c) => (
                  <option key={c}>{c}</option>
                ))}
              </select>
            )}
            {w.id === "radio" && of("radio") !== "" && (
              <span className="ticks">
                {wishes.data.radios.map((r) => (
                  <label key={r.id} className="tick">
                    <input
                      type="checkbox"
                      checked={now.radio?.includes(r.id) ?? false}
                      onChange={(e) => {
                        const left = (now.radio ?? []).filter((x) => x !== r.id);
                        const next = e.target.checked ? [...left, r.id] : left;
                        if (next.length > 0) keep({ radio: next });
                      }}
                    />
                    {r.text}
                  </label>
                ))}
              </span>
            )}
            {w.id === "budget" && of("budget") !== "" && (
              <Amount label="Budget for the devices" value={now.budget} keep={(budget) => budget > 0 && keep({ budget })} />
            )}
          </OneWish>
        ))}
      </div>
      <div className="wish-numbers">
        <Amount label="Hours a day that the lamps burn" value={now.hoursPerDay} keep={(hoursPerDay) => keep({ hoursPerDay })} />
        <Amount label="Price of a kilowatt-hour" value={now.energyPrice} keep={(energyPrice) => keep({ energyPrice })} />
      </div>
      <FixedCores fixed={now.cores ?? []} roles={wishes.data.fixable} keep={(cores) => keep({ cores })} />
      <details className="conventions">
        <summary>Where practitioners disagree</summary>
        <dl>
          {wishes.data.schools.map((s) => (
            <OneConvention
              key={s.id}
              convention={s}
              now={now.schools?.[s.id] ?? s.default}
              keep={(id) => keep({ schools: { ...now.schools, [s.id]: id } })}
            />
          ))}
        </dl>
      </details>
    </details>
  );
}

const ways: [How, string][] = [
  ["", "—"],
  ["nice", "nice"],
  ["must", "must"],
];

function OneWish(props: { text: string; how: How; set: (how: How) => void; children?: React.ReactNode }) {
  const name = useId();
  return (
    <fieldset className="wish">
      <legend>{props.text}</legend>
      <span className="segments">
        {ways.map(([how, label]) => (
          <label key={how}>
            <input type="radio" name={name} checked={props.how === how} onChange={() => props.set(how)} />
            <span>
              {label}
              {how === "" && <span className="sr-only"> not wished</span>}
            </span>
          </label>
        ))}
      </span>
      {props.children}
    </fieldset>
  );
}

/** A number that is kept when one leaves it, or presses Enter. */
function Amount(props: { label: string; value: number | undefined; keep: (value: number) => void }) {
  const [text, setText] = useState<string>();
  const leave = () => {
    const value = Number((text ?? "").replace(",", "."));
    if (text !== undefined && Number.isFinite(value) && value >= 0) props.keep(value);
    setText(undefined);
  };
  return (
    <label className="amount">
      <span>{props.label}</span>
      <input
        className="input small"
        inputMode="decimal"
        value={text ?? (props.value ? String(props.value) : "")}
        onChange={(e) => setText(e.target.value)}
        onBlur={leave}
        onKeyDown={(e) => e.key === "Enter" && leave()}
      />
    </label>
  );
}

function OneConvention(props: { convention: Schemas["Convention"]; now: string; keep: (id: string) => void }) {
  const { convention, now } = props;
  const answer = convention.choices.find((c) => c.id === now);
  return (
    <div className="convention">
      <dt>
        <label>
          {convention.asks}
          <select className="input" value={now} onChange={(e) => props.keep(e.target.value)}>
            {convention.choices.map((c) => (
              <option key={c.id} value={c.id}>
                {c.text}
                {c.id === convention.default ? " (usual here)" : ""}
              </option>
            ))}
          </select>
        </label>
      </dt>
      <dd>
        {answer?.consequence} {now === convention.default && <span className="quiet">Usual here because: {convention.why}</span>}
      </dd>
    </div>
  );
}
