import { Printer } from "lucide-react";
import { useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import type { Option, Schemas } from "../../api/client";
import { useCircuit, usePlan, usePractices } from "../../api/queries";
import { Mark } from "./OptionDetails";
import { boxName } from "../circuit/work";
import { Notice, Waiting } from "../../ui/Notice";
import { Shell } from "../../ui/Shell";
import { CircuitTrail } from "../circuit/CircuitTrail";
import { useMoney } from "../../ui/settings";
import { Tick } from "../../ui/Tick";
import { look } from "../../ui/look";
import { Tool } from "../../ui/Tool";

/** What is counted of an option. */
const numbers: [keyof Schemas["Metrics"], string][] = [
  ["boxesTouched", "Boxes opened"],
  ["endsMoved", "Ends touched"],
  ["remarked", "Ends re-marked"],
  ["capped", "Ends capped"],
  ["walks", "Walks to the panel"],
  ["ladders", "Boxes from a ladder"],
  ["minutes", "Minutes, about"],
  ["connectors", "Connectors"],
  ["pigtails", "Short wires"],
  ["newCables", "New cables"],
  ["bypasses", "Bypasses at the lamp"],
  ["batteries", "Batteries"],
  ["price", "Price of the devices"],
  ["savedAgainstKit", "Saved against a kit of two"],
  ["lampsInstead", "Smart lamps instead would cost"],
  ["standbyWatts", "Standby, W"],
  ["standbyYear", "Standby, kWh a year"],
  ["standbyCostYear", "Standby, price a year"],
  ["lampsYear", "The lamps, kWh a year"],
  ["lampsCostYear", "The lamps, price a year"],
];

/** Where an option has nothing of the kind. */
const nothing = "—";

/** Of those, sums of money. */
const prices: (keyof Schemas["Metrics"])[] = ["price", "savedAgainstKit", "lampsInstead", "standbyCostYear", "lampsCostYear"];

/** Options side by side, for the electrician and the customer, on the page and on paper. */
/** On a phone the name of a row stands above its cells. */
const compared =
  "compared min-w-0 [&_li]:py-0.5 [&_td_svg]:mr-1 [&_td_svg]:inline [&_td_svg]:align-[-2px] [&_tbody_td]:min-w-44 [&_tbody_th]:min-w-36 [&_tbody_th]:text-base [&_thead_th]:min-w-44 [&_thead_th]:font-serif [&_thead_th]:text-base [&_thead_th]:font-semibold [&_thead_th]:text-ink " +
  "max-sm:[&_tbody_td]:min-w-0 max-sm:[&_tbody_td]:flex-[0_0_10.3rem] max-sm:[&_tbody_td]:pt-7 max-sm:[&_tbody_th]:absolute max-sm:[&_tbody_th]:top-1 max-sm:[&_tbody_th]:left-0 max-sm:[&_tbody_th]:border-0 max-sm:[&_tbody_th]:p-0 max-sm:[&_tbody_th]:whitespace-nowrap max-sm:[&_thead_td]:hidden max-sm:[&_thead_th]:min-w-0 max-sm:[&_thead_th]:flex-[0_0_10.3rem] max-sm:[&_tr]:relative max-sm:[&_tr]:flex";

export function ComparePage() {
  const id = useParams().circuit ?? "";
  const [search] = useSearchParams();
  const circuit = useCircuit(id);
  const plan = usePlan(id, circuit.data?.revision ?? "");
  const practices = usePractices();
  const wanted = (search.get("o") ?? "").split(",").slice(0, 4);
  const options = wanted.flatMap((w) => plan.data?.options.filter((o) => o.id === w && o.feasible) ?? []);
  const outages = [...new Map(options.flatMap((o) => o.outages?.map((x) => [x.when, x.name] as const) ?? []))];
  const places = [...new Set(options.flatMap((o) => o.places?.map((p) => p.where) ?? []))];
  const wished = [
    ...new Map(options.flatMap((o) => o.wishes?.map((w) => [w.wish, w.text + (w.how === "must" ? " (must)" : "")] as const) ?? [])),
  ];
  const [words, setWords] = useState(false);
  const money = useMoney();
  const data = circuit.data;
  const practice = practices.data?.find((p) => p.id === data?.document.practice);
  return (
    <Shell
      title="Side by side"
      trail={<CircuitTrail to={`/circuits/${id}/choose`} circuit={data?.document.name} page="Side by side" />}
      tools={<Tool icon={Printer} label="Print" onClick={() => window.print()} />}
    >
      <section className={look.page}>
        {data && <h1>{data.document.name}: ways to make it smart</h1>}
        <Notice error={circuit.error ?? plan.error} />
        {plan.isPending && <Waiting what="Allocating and simulating" />}
        {plan.data && options.length === 0 && (
          <p className={look.empty}>
            None of these options is offered any more: the record or the wishes have changed.{" "}
            <Link to={`/circuits/${id}/choose`}>Choose again</Link>.
          </p>
        )}
        {plan.data && options.length > 0 && options.length < wanted.length && (
          <p className="text-soft">Some of the options are not offered any more, and are left out.</p>
        )}
        {practice && options.length > 0 && (
          <Tick checked={words} set={setWords}>
            With words
          </Tick>
        )}
        {data && practice && options.length > 0 && (
          <div className="overflow-x-auto print:overflow-visible" tabIndex={0} role="region" aria-label="Options side by side">
            <table className={compared}>
              <thead>
                <tr>
                  <td />
                  {options.map((o) => (
                    <th key={o.id} scope="col">
                      {o.title}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {places.map((where) => (
                  <Row
                    key={where}
                    name={where}
                    options={options}
                    of={(o) => {
                      const p = o.places?.find((x) => x.where === where);
                      if (!p) return "—";
                      const can = [
                        p.dims && "dims",
                        p.scenes && "scenes by rules",
                        p.upIsOn && "up is on",
                        p.kept && "old switch",
                        p.battery && "battery",
                      ];
                      return can.filter(Boolean).join(", ") || "on and off";
                    }}
                  />
                ))}
                {outages.map(([when, name]) => (
                  <Row
                    key={when}
                    name={name}
                    options={options}
                    of={(o) => {
                      const x = o.outages?.find((y) => y.when === when);
                      if (!x) return nothing;
                      const all = x.works.length + x.lost.length;
                      return x.lost.length === 0 ? "works" : `works from ${x.works.length} of ${all}`;
                    }}
                    mark={(o) => {
                      const x = o.outages?.find((y) => y.when === when);
                      return x && x.lost.length === 0;
                    }}
                  />
                ))}
                {wished.map(([wish, text]) => (
                  <Row
                    key={wish}
                    name={text}
                    options={options}
                    of={(o) => (o.wishes?.find((w) => w.wish === wish)?.met ? "met" : "not met")}
                    mark={(o) => o.wishes?.find((w) => w.wish === wish)?.met}
                  />
                ))}
                {numbers.map(([key, name]) => (
                  <Row
                    key={key}
                    name={name}
                    options={options}
                    when={(o) => o.metrics?.[key] !== undefined}
                    of={(o) => (prices.includes(key) ? money(o.metrics?.[key]) : String(o.metrics?.[key] ?? "—"))}
                  />
                ))}
                <Row name="Work in" options={options} of={(o) => o.boxesTouched?.map((b) => boxName(data, b)).join(", ") ?? ""} />
                <Row
                  name="Devices"
                  options={options}
                  of={(o) => o.devices?.map((d) => d.name + (d.setTo ? ` (set to ${d.setTo.join(", ")})` : "")).join("; ") ?? ""}
                />
                {words && (
                  <>
                    <Row name="What it is" options={options} of={(o) => o.about} plain />
                    <Row name="For it" options={options} of={(o) => o.pros?.join(" ") ?? ""} plain />
                    <Row name="Against it" options={options} of={(o) => o.cons?.join(" ") ?? ""} plain />
                    {outages.map(([when, name]) => (
                      <Row
                        key={when}
                        name={name}
                        options={options}
                        of={(o) => o.outages?.find((x) => x.when === when)?.text ?? "Nothing of it can fail so."}
                        plain
                      />
                    ))}
                  </>
                )}
              </tbody>
            </table>
          </div>
        )}
        {practice && options.length > 0 && (
          <p className={`${look.caution} mt-4`}>
            {practice.caution} {practice.whoMay} Each way was simulated on the circuit as recorded: a wrong record gives a wrong plan.
            Minutes are an estimate. The device’s own instructions, the local code and the inspector decide.
          </p>
        )}
      </section>
    </Shell>
  );
}

/** One thing of each option: what differs is bold, where it is no prose. */
function Row(props: {
  name: string;
  options: Option[];
  of: (o: Option) => string;
  mark?: (o: Option) => boolean | undefined;
  when?: (o: Option) => boolean;
  plain?: boolean;
}) {
  if (props.when && !props.options.some(props.when)) return null;
  const differs = !props.plain && new Set(props.options.map(props.of)).size > 1;
  return (
    <tr>
      <th scope="row">{props.name}</th>
      {props.options.map((o) => (
        <td key={o.id} className={differs ? "font-semibold" : undefined}>
          {props.mark && props.of(o) !== nothing ? <Mark is={props.mark(o) ?? false}>{props.of(o)}</Mark> : props.of(o)}
        </td>
      ))}
    </tr>
  );
}
