import { useMutation } from "@tanstack/react-query";
import { Check, TriangleAlert } from "lucide-react";
import { useState } from "react";
import { client, take, type Schemas } from "../../api/client";
import { inabilities } from "../../api/terms.gen";
import { Notice } from "../../ui/Notice";
import type { Answer } from "./answer";
import { Narrowing } from "./Narrowing";
import { Round } from "./Round";
import { Probes } from "./Probes";
import { useArriving } from "../../ui/useArriving";
import { useKeys } from "../../ui/useKeys";
import { useWork } from "../circuit/work";
import { Tick } from "../../ui/Tick";
import { Choice } from "../../ui/Choice";
import { Card, Large, Warning } from "./Card";
import { look } from "../../ui/look";

type Next = Schemas["NextTest"];

/** One answer, large enough for a thumb in a glove. */
const answer =
  "answer flex cursor-pointer flex-col justify-center rounded-[2px] border-ink bg-paper px-3.5 py-2 text-left font-[650] hover:not-disabled:bg-room disabled:cursor-default disabled:border-dashed disabled:border-soft disabled:text-soft";

/** One test: what must be confirmed before, what to do, and big answers. */
export function TestCard(props: {
  next: Next;
  of: number;
  waiting?: boolean;
  heading?: string;
  pictured?: boolean;
  conductors?: Answer["conductors"];
  /** Ways of testing that the person cannot use; one tap adds one that this test needs. */
  cannot?: Answer["cannot"];
}) {
  const { next } = props;
  const { circuit, change, busy, word } = useWork();
  const [volts, setVolts] = useState("");
  const [together, setTogether] = useState(false);
  const gates = next.gates;
  const arriving = useArriving();
  const locked = gates.length > 0 || busy || props.waiting || arriving;
  const measuresVolts = next.test.instrument === "two-pole" || next.test.instrument === "multimeter";
  const read = (reading: string | number) => {
    if (!locked) change({ do: "edit", edit: { op: "observe", observation: { ...next.test, reading } } });
  };
  const ask = useMutation({
    mutationFn: () => take(client.POST("/circuits/{circuit}/ask", { params: { path: { circuit: circuit.id } }, body: next.test })),
    onSuccess: (told) => read(told.reading),
  });
  const [yes, no] = next.outcomes;
  const keyed = !locked && props.heading === undefined; // of several tests on a page, keys answer the one proposed
  useKeys({
    y: yes && keyed ? () => read(yes.reading) : undefined,
    n: no && keyed ? () => read(no.reading) : undefined,
    u: keyed ? () => read("unclear") : undefined,
    h: circuit.house && keyed ? () => ask.mutate() : undefined,
  });
  return (
    <Card label={props.heading ?? "The next test"} arriving={arriving}>
      <p className="border-b border-rule pb-1 font-serif font-semibold">
        {props.heading ?? (next.confirms ? "Confirming reading" : "Next test")} · {next.live ? "live" : "dead"}
      </p>
      {next.live && (
        <Warning>
          <TriangleAlert aria-hidden size={20} className="shrink-0" />
          <span>
            Parts are live for this test: the {word("breaker")} is on. {next.instead}
          </span>
        </Warning>
      )}
      <Gates next={next} />
      {next.prepare.length > 0 && (
        <ol className="list-decimal pl-6 text-[1.08rem] [&>li]:py-0.5" aria-label="Before the reading">
          {next.prepare.map((step) => (
            <li key={step}>{step}</li>
          ))}
        </ol>
      )}
      {gates.length === 0 && props.pictured && <Probes at={next.test.at ?? []} />}
      {!together && <Large>{next.measure}</Large>}
      <div className={together ? "hidden" : "grid grid-cols-2 gap-2.5 print:hidden"} role="group" aria-label="What it showed">
        {next.outcomes.map((o, i) => (
          <button
            key={String(o.reading)}
            type="button"
            className={`${answer} min-h-21 border-2 text-[1.2rem]`}
            disabled={locked}
            onClick={() => read(o.reading)}
          >
            <span>
              {props.heading === undefined && <kbd aria-hidden>{"YN"[i]}</kbd>} {o.words}
            </span>
            <Left of={props.of} worlds={o.worlds} />
            <span className="text-[0.9rem] font-normal text-soft">
              {o.worlds === 0 ? "cannot be, by the record" : o.done ? "then all is certain" : `leaves ${o.worlds} of ${props.of}`}
            </span>
          </button>
        ))}
        <button
          type="button"
          className={`${answer} col-span-full min-h-14 border text-[1.05rem]`}
          disabled={locked}
          onClick={() => read("unclear")}
        >
          <span>{props.heading === undefined && <kbd aria-hidden>U</kbd>} cannot tell</span>
          <span className="text-[0.9rem] font-normal text-soft">another test instead</span>
        </button>
      </div>
      {props.heading === undefined && next.round.length > 1 && (
        <button type="button" className={`${look.button} w-full`} aria-expanded={together} onClick={() => setTogether(!together)}>
          {together ? "One by one" : `Take ${next.round.length} readings in one go`}
        </button>
      )}
      {together && <Round next={next} locked={locked} />}
      <Narrowing outcomes={next.outcomes} conductors={props.conductors ?? []} />
      {measuresVolts && (
        <form
          className="flex flex-wrap items-end gap-3"
          onSubmit={(e) => {
            e.preventDefault();
            const value = Number(volts.replace(",", "."));
            if (volts.trim() !== "" && Number.isFinite(value) && value >= 0) read(value);
          }}
        >
          <label className={look.field}>
            <span>Other volts read</span>
            <input inputMode="decimal" value={volts} onChange={(e) => setVolts(e.target.value)} />
          </label>
          <button type="submit" className={look.button} disabled={locked}>
            Enter volts
          </button>
        </form>
      )}
      {circuit.house && (
        <button type="button" className={`${look.button} w-full`} disabled={locked || ask.isPending} onClick={() => ask.mutate()}>
          <kbd aria-hidden>H</kbd> Ask the hidden house
        </button>
      )}
      <Notice error={ask.error} />
      <p className="text-soft">{next.why}</p>
      {props.cannot && (
        <div role="group" aria-label="I cannot do this" className="flex flex-wrap gap-2">
          {inabilities
            .filter(([way]) => next.needs.includes(way))
            .map(([way, text]) => (
              <button
                key={way}
                type="button"
                className={look.small}
                disabled={busy}
                onClick={() => change({ do: "edit", edit: { op: "cannot", ways: [...(props.cannot ?? []), way] } })}
              >
                {text}
              </button>
            ))}
        </div>
      )}
      {next.confirms && (
        <button
          type="button"
          className={look.small}
          disabled={busy}
          onClick={() => change({ do: "edit", edit: { op: "set-circuit", confirm: "never" } })}
        >
          Do not confirm
        </button>
      )}
    </Card>
  );
}

/** How much of what fits now would be left, as a bar. */
function Left(props: { of: number; worlds: number }) {
  return (
    <span aria-hidden className="flex h-2 w-full border border-current">
      <span className="bg-current" style={{ width: `${Math.min(1, props.worlds / Math.max(1, props.of)) * 100}%` }} />
    </span>
  );
}

/** What a person confirms before a test, until when the answers are locked; and what was confirmed and holds. */
function Gates({ next: { gates, asks, passed } }: { next: Next }) {
  const { circuit, change, busy } = useWork();
  const [live, setLive] = useState("");
  const conductors = gates.flatMap((g) => g.conductors ?? []);
  const all = asks.flatMap((ask) => ask.lines.map((line) => `${ask.title} ${line}`));
  const [ticked, setTicked] = useState<string[]>([]);
  const held = passed.length > 0 && (
    <ul aria-label="Confirmed and still so" className="flex flex-wrap gap-x-4 text-soft">
      {passed.map((text) => (
        <li key={text} className="flex items-baseline gap-2">
          <Check aria-hidden size={14} className="shrink-0 self-center" />
          {text}
        </li>
      ))}
    </ul>
  );
  if (gates.length === 0) return held;
  return (
    <div className="gates border border-ink px-3.5 pt-2.5 pb-3.5">
      {held}
      {asks.map((ask) => (
        <fieldset key={ask.title}>
          <legend className="pt-1.5 font-[650]">{ask.title}</legend>
          {ask.lines.map((line) => {
            const key = `${ask.title} ${line}`;
            return (
              <div key={line}>
                <Tick checked={ticked.includes(key)} set={(so) => setTicked((now) => (so ? [...now, key] : now.filter((x) => x !== key)))}>
                  {line}
                </Tick>
              </div>
            );
          })}
        </fieldset>
      ))}
      <button
        type="button"
        className={`${look.strong} w-full mt-2 justify-center`}
        disabled={busy || all.some((key) => !ticked.includes(key))}
        onClick={() => change({ do: "edit", edit: { op: "gate", gates: gates.map((g) => ({ gate: g.gate, box: g.box })) } })}
      >
        Confirm and go on
      </button>
      {conductors.length > 0 && (
        <div className={`${look.row} mt-3`}>
          <Choice
            above
            label="One is live with the power off"
            hint="choose which …"
            value={live}
            options={conductors.map((c) => [c, circuit.reading.names.ends[c] ?? c])}
            set={setLive}
          />
          <button
            type="button"
            className={look.button}
            disabled={busy || live === ""}
            onClick={() =>
              change({
                do: "edit",
                edit: { op: "observe", observation: { power: "off", instrument: "non-contact", at: [live], reading: "live" } },
              })
            }
          >
            One is live
          </button>
        </div>
      )}
    </div>
  );
}
