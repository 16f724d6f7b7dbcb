import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { useTogether } from "../../api/queries";
import { Choice } from "../../ui/Choice";
import { Fold } from "../../ui/Fold";
import { Notice, Waiting } from "../../ui/Notice";
import { look } from "../../ui/look";
import { useMoney, usePriced } from "../../ui/settings";

type Plan = Schemas["JobPlan"];

const measures: [Plan["by"], string][] = [
  ["price", "least money"],
  ["time", "least time"],
  ["families", "fewest kinds of devices"],
];

function time(minutes: number): string {
  const whole = Math.round(minutes);
  return whole < 60 ? `${whole} min` : `${Math.floor(whole / 60)} h ${whole % 60} min`;
}

/** All circuits of a job planned together: asked for, since each of them is planned for it. */
export function Together(props: { job: string; circuits: Schemas["CircuitSummary"][] }) {
  const [asked, ask] = useState(false);
  const [by, setBy] = useState<Plan["by"]>("price");
  const [rate, setRate] = useState("");
  const hour = Number(rate.replace(",", "."));
  const wrong = !(hour >= 0 && hour <= 1_000_000);
  // Another stage of a circuit may mean another plan for it, so what was worked out holds for these circuits as they stand.
  const standing = props.circuits.map((c) => `${c.id} ${c.verdict} ${c.boxes} ${c.controls}`).join();
  const plans = useTogether(props.job, standing, by, wrong ? 0 : hour, asked);
  const priced = usePriced();
  return (
    <section className={look.chapter}>
      <h2>The whole job</h2>
      {!asked && (
        <>
          <p className="text-soft">One plan for each circuit, chosen together: money, hours, readings and hubs of all of them.</p>
          <button type="button" className={`${look.button} mt-2`} onClick={() => ask(true)}>
            Plan all circuits
          </button>
        </>
      )}
      {asked && (
        <div className="my-2 flex flex-wrap items-end gap-x-4 gap-y-2">
          <Choice
            above
            label="The first plan has"
            value={by}
            options={measures}
            set={(v) => setBy(measures.find(([id]) => id === v)?.[0] ?? "price")}
          />
          <label className={look.field}>
            <span>{priced("An hour of work costs")}</span>
            <input inputMode="decimal" value={rate} placeholder="0" aria-invalid={wrong} onChange={(e) => setRate(e.target.value)} />
          </label>
        </div>
      )}
      {wrong && <p role="alert">Enter the price of an hour, or nothing.</p>}
      <Notice error={plans.error} />
      {asked && plans.isPending && <Waiting what="Planning all circuits" />}
      {plans.data && <Plans {...plans.data} />}
    </section>
  );
}

function Plans({ plans, left, breakers }: Schemas["Together"]) {
  const shared = breakers.filter((b) => b.circuits.length > 1);
  return (
    <>
      {plans.map((p, i) => (
        <OnePlan key={p.by} plan={p} first={i === 0} />
      ))}
      {plans.length === 0 && <p className={look.empty}>Nothing fits any circuit yet.</p>}
      {left.length > 0 && (
        <Fold title={`${left.length} ${left.length === 1 ? "circuit has" : "circuits have"} no plan yet`} open={plans.length === 0}>
          <ul className={look.dashes}>
            {left.map((x) => (
              <li key={x.circuit}>
                <Link to={`/circuits/${x.circuit}/choose`}>{x.name}</Link>: {x.why}
              </li>
            ))}
          </ul>
        </Fold>
      )}
      {shared.map((b) => (
        <p key={b.label}>
          One power-off for {b.circuits.join(", ")}: {b.label}.
        </p>
      ))}
    </>
  );
}

/** One plan: what it adds up to, and what is chosen for each circuit. */
function OnePlan({ plan, first }: { plan: Plan; first: boolean }) {
  const money = useMoney();
  const name = measures.find(([id]) => id === plan.by)?.[1] ?? plan.by;
  return (
    <Fold
      section
      open={first}
      title={`${name[0]?.toUpperCase() ?? ""}${name.slice(1)}: ${money(plan.price)} for ${plan.devices} ${plan.devices === 1 ? "device" : "devices"}, ${time(plan.minutes)}`}
    >
      <p className="text-soft">
        {plan.cost > plan.price && `${money(plan.cost)} with the work · `}
        {plan.readings === 0 ? "nothing to read first" : plan.readings === 1 ? "1 reading first" : `${plan.readings} readings first`} ·{" "}
        {plan.hubs.length === 0 ? "no hub" : plan.hubs.map((h) => `hub for ${h}`).join(", ")} · {plan.families.join(", ")}
      </p>
      <table className="w-full min-w-0 wrap-normal">
        <thead className="max-sm:sr-only">
          <tr>
            <th scope="col">Circuit</th>
            <th scope="col">Plan</th>
            <th scope="col">Devices</th>
            <th scope="col">Work</th>
          </tr>
        </thead>
        <tbody>
          {plan.choices.map((c) => (
            <tr key={c.circuit} className="max-sm:flex max-sm:flex-wrap max-sm:gap-x-3 [&>*]:align-middle max-sm:[&>td]:border-0">
              <th scope="row" className="text-left text-base max-sm:basis-full max-sm:pb-0">
                <Link
                  className="inline-flex min-h-11 items-center"
                  to={`/circuits/${c.circuit}/choose?show=${encodeURIComponent(c.option)}`}
                >
                  {c.name}
                </Link>
              </th>
              <td className="max-sm:basis-full max-sm:py-0">{c.title}</td>
              <td className="whitespace-nowrap tabular-nums">{money(c.price)}</td>
              <td className="whitespace-nowrap tabular-nums">{time(c.minutes)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Fold>
  );
}
