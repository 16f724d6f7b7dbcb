import { ArrowDown, ArrowUp, Check, Minus, X } from "lucide-react";
import { useState, type ReactNode } from "react";
import type { Option, Pick } from "../../api/client";
import { Choice } from "../../ui/Choice";
import { useMoney, usePriced } from "../../ui/settings";
import { Tick } from "../../ui/Tick";
import { useWork } from "../circuit/work";
import { look } from "../../ui/look";

/** How many rows stand there at first. */
const few = 10;

/** Measures of the plot, in pixels. */
const plot = { w: 340, h: 200, left: 46, right: 12, top: 12, bottom: 38 };

type Column = { id: string; name: string; of: (o: Option) => number };

const columns: Column[] = [
  { id: "dims", name: "Dims from", of: (o) => -(o.places?.filter((p) => p.dims).length ?? 0) },
  { id: "boxes", name: "Boxes", of: (o) => o.metrics?.boxesTouched ?? 0 },
  { id: "ends", name: "Ends", of: (o) => o.metrics?.endsMoved ?? 0 },
  { id: "tests", name: "To read", of: (o) => o.relies.length },
  { id: "minutes", name: "Min", of: (o) => o.metrics?.minutes ?? 0 },
  { id: "price", name: "Price", of: (o) => o.metrics?.price ?? 0 },
];

/** All that fits as a plot of work against price, and as a table that sorts by any of its columns. */
export function TradeOff(props: {
  options: Option[];
  first: Pick[];
  shown: string | undefined;
  show: (option: string | undefined) => void;
  marked: string[];
  mark: (option: string) => void;
  compare: ReactNode;
}) {
  const [by, setBy] = useState("");
  const [down, setDown] = useState(false);
  const [family, setFamily] = useState("");
  const [all, setAll] = useState(false);
  const [near, setNear] = useState<string>();
  // An option tells of the other outages when it is opened.
  const avoidable = props.options.flatMap((o) => o.outages?.filter((x) => x.avoidable) ?? []);
  const outages = [...new Map(avoidable.map((x) => [x.when, x.name]))];
  const families = [...new Map(props.options.map((o) => [o.family, o.familyName] as [string, string]))];
  const column = columns.find((c) => c.id === by);
  const kept = props.options.filter((o) => !family || o.family === family);
  const sorted = column ? [...kept].sort((a, b) => (column.of(a) - column.of(b)) * (down ? -1 : 1)) : kept;
  const rows = all ? sorted : sorted.slice(0, few);
  const sort = (id: string) => {
    setDown(by === id ? !down : false);
    setBy(id);
  };
  return (
    <section className="my-3" aria-label="What fits">
      <h2 className="mb-1 text-[1.35rem]">What these conductors can carry</h2>
      <First picks={props.first} options={props.options} shown={props.shown} show={props.show} />
      <div className="flex flex-wrap items-start gap-x-6 gap-y-2">
        <Plot options={kept} near={near ?? props.shown} setNear={setNear} show={props.show} />
        <div className="flex min-w-0 flex-1 basis-40 flex-col items-start gap-1">
          <Choice
            label="Sorted by"
            value={by || "wished"}
            options={[["wished", "what is wanted"], ...columns.map((c): [string, string] => [c.id, c.name.toLowerCase()])]}
            set={(id) => {
              setDown(false);
              setBy(id === "wished" ? "" : id);
            }}
          />
          <Choice
            label="Kind"
            value={family || "all"}
            options={[["all", `all ${families.length}`], ...families]}
            set={(id) => setFamily(id === "all" ? "" : id)}
          />
          <p className="text-soft">
            {kept.length === 1 ? "1 way fits" : `${kept.length} ways fit`}. A press on one draws it{" "}
            {props.shown ? "instead" : "and opens it"}.
          </p>
          {props.compare}
        </div>
      </div>
      <div className="relative overflow-x-auto" tabIndex={0} role="region" aria-label="All that fits, as a table">
        <table className="w-full min-w-0 text-[0.92rem] wrap-normal max-sm:block [&_td]:px-1 [&_td]:align-middle [&_th]:px-1 [&_th]:align-middle">
          <thead className="max-sm:hidden">
            <tr>
              <th scope="col">
                <span className="sr-only">Compare</span>
              </th>
              <th scope="col">Option</th>
              {columns.map((c) => (
                <th key={c.id} scope="col" aria-sort={by === c.id ? (down ? "descending" : "ascending") : "none"}>
                  <button type="button" className="inline-flex min-h-11 items-center gap-1 whitespace-nowrap" onClick={() => sort(c.id)}>
                    {c.name}
                    {by === c.id && (down ? <ArrowDown aria-hidden size={14} /> : <ArrowUp aria-hidden size={14} />)}
                  </button>
                </th>
              ))}
              {outages.map(([when, name]) => (
                <th key={when} scope="col" className="leading-tight">
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody className="max-sm:block">
            {rows.map((o) => (
              <Row key={o.id} option={o} outages={outages} lit={near === o.id} near={setNear} {...props} />
            ))}
          </tbody>
        </table>
      </div>
      {sorted.length > few && (
        <button type="button" className={`${look.button} mt-2`} aria-expanded={all} onClick={() => setAll(!all)}>
          {all ? `The first ${few} only` : `All ${sorted.length}`}
        </button>
      )}
    </section>
  );
}

/** Up to three plans to look at first, each with what speaks for it. */
function First(props: { picks: Pick[]; options: Option[]; shown: string | undefined; show: (option: string) => void }) {
  const money = useMoney();
  if (props.options.length < 2) return null;
  return (
    <ul aria-label="Look at these first" className="mt-2 mb-3 grid gap-2 sm:grid-cols-3">
      {props.picks.map((pick) => {
        const o = props.options.find((x) => x.id === pick.option);
        if (!o) return null;
        const toRead = o.relies.length;
        return (
          <li key={pick.option} className="grid">
            <button
              type="button"
              className="grid min-h-11 cursor-pointer content-start gap-0.5 border border-rule bg-sheet px-3 py-2 text-left hover:border-ink aria-pressed:border-ink aria-pressed:bg-room"
              aria-pressed={props.shown === o.id}
              onClick={() => props.show(o.id)}
            >
              <strong className="first-letter:uppercase">{pick.reasons.join(", ")}</strong>
              <span>{o.title}</span>
              <span className="text-soft">
                {toRead === 0 ? "nothing to read" : toRead === 1 ? "1 reading to go" : `${toRead} readings to go`} · {o.metrics?.minutes}{" "}
                minutes · {money(o.metrics?.price)}
              </span>
            </button>
          </li>
        );
      })}
    </ul>
  );
}

/** One option: on a small screen its numbers stand under its title. */
function Row(props: {
  option: Option;
  outages: (readonly [string, string])[];
  lit: boolean;
  near: (id: string | undefined) => void;
  shown: string | undefined;
  show: (option: string | undefined) => void;
  marked: string[];
  mark: (option: string) => void;
}) {
  const { circuit } = useWork();
  const money = useMoney();
  const o = props.option;
  const shown = props.shown === o.id;
  const dims = `${o.places?.filter((p) => p.dims).length ?? 0} of ${o.places?.length ?? 0}`;
  return (
    <tr
      className={`max-sm:flex max-sm:border-b max-sm:border-rule ${props.lit || shown ? "bg-room" : ""}`}
      onMouseEnter={() => props.near(o.id)}
      onMouseLeave={() => props.near(undefined)}
    >
      <td className="w-8 max-sm:border-0!">
        <Tick checked={props.marked.includes(o.id)} set={() => props.mark(o.id)}>
          <span className="sr-only">Compare: {o.title}</span>
        </Tick>
      </td>
      <th scope="row" className="min-w-48 text-ink max-sm:min-w-0 max-sm:flex-1 max-sm:border-0! [&]:font-normal">
        <button
          type="button"
          data-option={o.id}
          className="min-h-11 cursor-pointer text-left underline underline-offset-3"
          aria-pressed={shown}
          onClick={() => props.show(shown ? undefined : o.id)}
        >
          {o.title}
          {circuit.choice?.option.id === o.id && <strong> · chosen</strong>}
        </button>
        <span className="grid pb-1 text-soft sm:hidden">
          {o.familyName} · dims from {dims} · {o.metrics?.boxesTouched} {o.metrics?.boxesTouched === 1 ? "box" : "boxes"} ·{" "}
          {o.metrics?.endsMoved} ends · {o.relies.length} to read · {o.metrics?.minutes} minutes · {money(o.metrics?.price)}
        </span>
        <span className="grid pb-1 text-soft max-sm:hidden">{o.familyName}</span>
      </th>
      <td className="max-sm:hidden">{dims}</td>
      <td className="max-sm:hidden">{o.metrics?.boxesTouched}</td>
      <td className="max-sm:hidden">{o.metrics?.endsMoved}</td>
      <td className="max-sm:hidden">{o.relies.length}</td>
      <td className="max-sm:hidden">{o.metrics?.minutes}</td>
      <td className="max-sm:hidden">{money(o.metrics?.price)}</td>
      {props.outages.map(([when, name]) => (
        <td key={when} className="max-sm:hidden">
          <Holds option={o} when={when} name={name} />
        </td>
      ))}
    </tr>
  );
}

/** Whether every place still works when that fails; a dash where there is nothing of the kind to fail. */
function Holds(props: { option: Option; when: string; name: string }) {
  const outage = props.option.outages?.find((x) => x.when === props.when);
  if (!outage) return <Minus aria-label={`${props.name}: nothing of the kind is in it`} size={16} />;
  return outage.lost.length === 0 ? (
    <Check aria-label={`${props.name}: every place works`} size={16} />
  ) : (
    <X aria-label={`${props.name}: not every place works`} size={16} />
  );
}

/** Round steps for an axis that reaches to a value. */
function ticks(to: number): number[] {
  const rough = Math.max(to, 1) / 4;
  const magnitude = 10 ** Math.floor(Math.log10(rough));
  const step = [1, 2, 5, 10].map((m) => m * magnitude).find((s) => s >= rough) ?? rough;
  return Array.from({ length: Math.ceil(to / step) + 1 }, (_, i) => i * step);
}

/** One dot an option: minutes of work to the right, price upwards. The table says the same in words. */
function Plot(props: {
  options: Option[];
  near: string | undefined;
  setNear: (id: string | undefined) => void;
  show: (id: string) => void;
}) {
  const across = ticks(Math.max(...props.options.map((o) => o.metrics?.minutes ?? 0)));
  const up = ticks(Math.max(...props.options.map((o) => o.metrics?.price ?? 0)));
  const x = (v: number) => plot.left + (v / (across.at(-1) ?? 1)) * (plot.w - plot.left - plot.right);
  const y = (v: number) => plot.h - plot.bottom - (v / (up.at(-1) ?? 1)) * (plot.h - plot.top - plot.bottom);
  const near = props.options.find((o) => o.id === props.near);
  const money = useMoney();
  const priced = usePriced();
  return (
    <figure className="w-[340px] max-w-full shrink-0">
      <svg viewBox={`0 0 ${plot.w} ${plot.h}`} className="block w-full" aria-hidden>
        {across.map((v) => (
          <g key={v}>
            <path d={`M${x(v)} ${plot.top}V${plot.h - plot.bottom}`} className="stroke-rule" />
            <text x={x(v)} y={plot.h - plot.bottom + 16} textAnchor="middle" fontSize={12} className="fill-soft">
              {v}
            </text>
          </g>
        ))}
        {up.map((v) => (
          <g key={v}>
            <path d={`M${plot.left} ${y(v)}H${plot.w - plot.right}`} className="stroke-rule" />
            <text x={plot.left - 6} y={y(v) + 4} textAnchor="end" fontSize={12} className="fill-soft">
              {v}
            </text>
          </g>
        ))}
        <text x={plot.w - plot.right} y={plot.h - 4} textAnchor="end" fontSize={12} className="fill-ink">
          minutes of work, about
        </text>
        <text x={12} y={plot.top} fontSize={12} textAnchor="end" transform={`rotate(-90 12 ${plot.top})`} className="fill-ink">
          {priced("price")}
        </text>
        {props.options.map((o) => (
          <circle
            key={o.id}
            cx={x(o.metrics?.minutes ?? 0)}
            cy={y(o.metrics?.price ?? 0)}
            r={o.id === props.near ? 8 : 5}
            className={o.id === props.near ? "cursor-pointer fill-ink" : "cursor-pointer fill-sheet stroke-ink stroke-[1.6]"}
            onMouseEnter={() => props.setNear(o.id)}
            onMouseLeave={() => props.setNear(undefined)}
            onClick={() => props.show(o.id)}
          />
        ))}
      </svg>
      <figcaption className="min-h-11 text-[0.92rem]" aria-live="polite">
        {near
          ? `${near.title}: ${near.metrics?.minutes} minutes, ${money(near.metrics?.price)}`
          : "The lower left is least work and least money."}
      </figcaption>
    </figure>
  );
}
