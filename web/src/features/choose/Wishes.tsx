import { useState, type ReactNode } from "react";
import type { Schemas } from "../../api/client";
import { useWish, useWishes } from "../../api/queries";
import { Notice } from "../../ui/Notice";
import { FixedCores } from "./FixedCores";
import { useWork } from "../circuit/work";
import { Fold } from "../../ui/Fold";
import { Choice } from "../../ui/Choice";
import { Segments } from "../../ui/Segments";
import { Tick } from "../../ui/Tick";
import { among } from "../../ui/among";
import { usePriced } from "../../ui/settings";

type Wanted = Schemas["Wishes"];
type How = "must" | "nice" | "";

/** What the customer wants: each wish is a must, nice to have, or nothing. The order of the options follows at once. */
export function Wishes() {
  const priced = usePriced();
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
    <Fold
      section
      className="border-b border-rule py-1"
      open={told !== ""}
      title={
        <>
          What is wanted{" "}
          <span className="font-sans text-base font-normal text-soft">{told || "nothing said: the least work stands first"}</span>
        </>
      }
    >
      <Notice error={wish.error} />
      <div className="grid grid-cols-[repeat(auto-fill,minmax(min(21rem,100%),1fr))] gap-x-8">
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
              <Choice
                quiet
                label="Colour"
                value={now.colour ?? ""}
                options={wishes.data.colours.map((c) => [c, c])}
                set={(colour) => keep({ colour })}
              />
            )}
            {w.id === "radio" && of("radio") !== "" && (
              <span className="flex basis-full flex-wrap gap-x-4">
                {wishes.data.radios.map((r) => (
                  <Tick
                    key={r.id}
                    checked={now.radio?.includes(r.id) ?? false}
                    set={(so) => {
                      const left = (now.radio ?? []).filter((x) => x !== r.id);
                      const next = so ? [...left, r.id] : left;
                      if (next.length > 0) keep({ radio: next });
                    }}
                  >
                    {r.text}
                  </Tick>
                ))}
              </span>
            )}
            {w.id === "budget" && of("budget") !== "" && (
              <Amount label={priced("Budget for the devices")} value={now.budget} keep={(budget) => budget > 0 && keep({ budget })} />
            )}
          </OneWish>
        ))}
      </div>
      <div className="flex flex-wrap gap-x-8 gap-y-1 border-t border-rule py-1.5">
        <Amount label="Hours a day that the lamps burn" value={now.hoursPerDay} keep={(hoursPerDay) => keep({ hoursPerDay })} />
        <Amount label={priced("Price of a kilowatt-hour")} value={now.energyPrice} keep={(energyPrice) => keep({ energyPrice })} />
      </div>
      <FixedCores fixed={now.cores ?? []} roles={wishes.data.fixable} keep={(cores) => keep({ cores })} />
      <Fold title="Where practitioners disagree">
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
      </Fold>
    </Fold>
  );
}

const ways: [How, ReactNode][] = [
  [
    "",
    <>
      —<span className="sr-only"> not wished</span>
    </>,
  ],
  ["nice", "nice"],
  ["must", "must"],
];

function OneWish(props: { text: string; how: How; set: (how: How) => void; children?: ReactNode }) {
  return (
    <fieldset className="wish flex min-h-13 min-w-0 flex-wrap items-center gap-x-3 border-t border-rule">
      <legend className="float-left flex-[1_1_11rem] p-0">{props.text}</legend>
      <Segments quiet label={props.text} value={props.how} options={ways} set={(how) => props.set(among(["must", "nice"], how) ?? "")} />
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
    <label className="amount inline-flex min-h-12 items-center gap-2.5">
      <span>{props.label}</span>
      <input
        className="w-28"
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
    <div className="border-t border-rule py-2">
      <dt>
        <Choice
          above
          label={convention.asks}
          value={now}
          options={convention.choices.map((c) => [c.id, c.text + (c.id === convention.default ? " (usual here)" : "")])}
          set={props.keep}
        />
      </dt>
      <dd>
        {answer?.consequence} {now === convention.default && <span className="text-soft">Usual here because: {convention.why}</span>}
      </dd>
    </div>
  );
}
