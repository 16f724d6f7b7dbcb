import { Printer } from "lucide-react";
import type { ReactNode } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import type { Option, Schemas } from "../../api/client";
import { useCircuit, usePlan, usePractices, useWishes } from "../../api/queries";
import { Mark } from "./OptionDetails";
import { boxName } from "../circuit/work";
import { Notice, Waiting } from "../../ui/Notice";
import { Shell, Trail } from "../../ui/Shell";

/** Options side by side, for the electrician and the customer, on the page and on paper. */
export function ComparePage() {
  const id = useParams().circuit ?? "";
  const [search] = useSearchParams();
  const circuit = useCircuit(id);
  const plan = usePlan(id, circuit.data?.revision ?? "");
  const wishes = useWishes(id);
  const practices = usePractices();
  const wanted = (search.get("o") ?? "").split(",").slice(0, 4);
  const options = wanted.flatMap((w) => plan.data?.options.filter((o) => o.id === w && o.feasible) ?? []);
  const outages = [...new Map(options.flatMap((o) => o.outages?.map((x) => [x.when, x.name] as const) ?? []))];
  const data = circuit.data;
  const practice = practices.data?.find((p) => p.id === data?.document.practice);
  return (
    <Shell
      title="Side by side"
      trail={
        <>
          <span aria-hidden>›</span>
          <Link to={`/circuits/${id}/choose`}>{data?.document.name ?? "Circuit"}</Link>
          <Trail>Side by side</Trail>
        </>
      }
      tools={
        <button type="button" className="tool" aria-label="Print" onClick={() => window.print()}>
          <Printer aria-hidden size={18} />
        </button>
      }
    >
      <section className="page">
        <h1>{data?.document.name}: ways to make it smart</h1>
        <Notice error={circuit.error ?? plan.error} />
        {plan.isPending && <Waiting what="Allocating and simulating" />}
        {plan.data && options.length === 0 && (
          <p className="empty">
            None of these options is offered any more: the record or the wishes have changed.{" "}
            <Link to={`/circuits/${id}/choose`}>Choose again</Link>.
          </p>
        )}
        {plan.data && options.length > 0 && options.length < wanted.length && (
          <p className="quiet">Some of the options are not offered any more, and are left out.</p>
        )}
        {data && options.length > 0 && (
          <div className="scroll" tabIndex={0} role="region" aria-label="Options side by side">
            <table className="compared">
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
                <Row name="What it is" options={options} cell={(o) => o.about} />
                <Row
                  name="What each place can do"
                  options={options}
                  cell={(o) => (
                    <ul>
                      {o.places?.map((p) => (
                        <li key={p.device}>
                          <strong>{p.where}</strong>:{" "}
                          {[
                            "on and off",
                            p.dims && "dims",
                            p.scenes && "scenes",
                            p.upIsOn && "up is on",
                            p.kept && "the old switch",
                            p.battery && "battery",
                          ]
                            .filter(Boolean)
                            .join(", ")}
                        </li>
                      ))}
                    </ul>
                  )}
                />
                {outages.map(([when, name]) => (
                  <Row
                    key={when}
                    name={name}
                    options={options}
                    cell={(o) => o.outages?.find((x) => x.when === when)?.text ?? "Nothing of it can fail so."}
                  />
                ))}
                <Row
                  name="Wishes"
                  options={options}
                  when={(o) => (o.wishes?.length ?? 0) > 0}
                  cell={(o) => (
                    <ul>
                      {o.wishes?.map((w) => (
                        <li key={w.wish}>
                          <Mark is={w.met}>{w.text + (w.how === "must" ? " (must)" : "")}</Mark>
                        </li>
                      ))}
                    </ul>
                  )}
                />
                <Row
                  name="Boxes opened"
                  options={options}
                  cell={(o) => `${o.metrics?.boxesTouched}: ${o.boxesTouched?.map((b) => boxName(data, b)).join(", ")}`}
                />
                <Row
                  name="Ends touched, re-marked, capped"
                  options={options}
                  cell={(o) => `${o.metrics?.endsMoved}, ${o.metrics?.remarked}, ${o.metrics?.capped}`}
                />
                <Row
                  name="Walks to the panel; minutes, about"
                  options={options}
                  cell={(o) => `${o.metrics?.walks}; ${o.metrics?.minutes}`}
                />
                <Row
                  name="Devices"
                  options={options}
                  cell={(o) => (
                    <ul>
                      {o.devices?.map((d) => (
                        <li key={d.id}>
                          {d.name}
                          {d.setTo ? ` (set to ${d.setTo.join(", ")})` : ""}
                        </li>
                      ))}
                    </ul>
                  )}
                />
                <Row
                  name="Materials"
                  options={options}
                  cell={(o) => {
                    const of = (name: keyof Schemas["Metrics"]) => o.metrics?.[name] ?? 0;
                    return [
                      `${of("connectors")} connectors`,
                      `${of("pigtails")} pigtails`,
                      `${of("capped")} caps`,
                      `${of("remarked")} tapes`,
                      of("newCables") > 0 && `${of("newCables")} new cables`,
                    ]
                      .filter(Boolean)
                      .join(", ");
                  }}
                />
                <Row name="Price of the devices, in units" options={options} cell={(o) => <strong>{o.metrics?.price}</strong>} />
                <Row
                  name="Saved against a kit of two"
                  options={options}
                  when={(o) => o.metrics?.savedAgainstKit !== undefined}
                  cell={(o) => o.metrics?.savedAgainstKit ?? "—"}
                />
                <Row
                  name="Smart lamps instead would cost"
                  options={options}
                  when={(o) => o.metrics?.lampsInstead !== undefined}
                  cell={(o) => o.metrics?.lampsInstead ?? "—"}
                />
                <Row
                  name="Standby"
                  options={options}
                  cell={(o) =>
                    `${o.metrics?.standbyWatts} W, ${o.metrics?.standbyYear} kWh a year${o.metrics?.standbyCostYear === undefined ? "" : `, ${o.metrics.standbyCostYear} units`}`
                  }
                />
                <Row
                  name="The lamps in a year"
                  options={options}
                  when={(o) => o.metrics?.lampsYear !== undefined}
                  cell={(o) =>
                    `${o.metrics?.lampsYear} kWh at ${wishes.data?.wishes.hoursPerDay} hours a day${o.metrics?.lampsCostYear === undefined ? "" : `, ${o.metrics.lampsCostYear} units`}`
                  }
                />
                <Row name="For it" options={options} cell={(o) => <List of={o.pros} />} />
                <Row name="Against it" options={options} cell={(o) => <List of={o.cons} />} />
              </tbody>
            </table>
          </div>
        )}
        {options.length > 0 && (
          <p className="caution mt-4">
            {practice?.caution} {practice?.whoMay} Each way was simulated on the circuit as recorded: a wrong record gives a wrong plan.
            Minutes are an estimate. The device’s own instructions, the local code and the inspector decide.
          </p>
        )}
      </section>
    </Shell>
  );
}

function Row(props: { name: string; options: Option[]; cell: (o: Option) => ReactNode; when?: (o: Option) => boolean }) {
  if (props.when && !props.options.some(props.when)) return null;
  return (
    <tr>
      <th scope="row">{props.name}</th>
      {props.options.map((o) => (
        <td key={o.id}>{props.cell(o)}</td>
      ))}
    </tr>
  );
}

function List({ of }: { of: string[] | undefined }) {
  return (
    <ul>
      {of?.map((x) => (
        <li key={x}>{x}</li>
      ))}
    </ul>
  );
}
