import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { useHandover } from "../../api/record";
import { Fold } from "../../ui/Fold";
import { look } from "../../ui/look";
import { Notice, Waiting } from "../../ui/Notice";
import { useSettings } from "../../ui/settings";
import { useWork } from "../circuit/work";
import { Document } from "../wire/Papers";

type Kind = Schemas["Claim"]["kind"];

/** How the record knows what it says, the surest first. */
const kinds: [Kind, string][] = [
  ["measured", "Measured"],
  ["pressed", "Pressed, and the lamps looked at"],
  ["confirmed", "Confirmed by a person"],
  ["done", "Done"],
  ["promised", "Held by the plan and its rules, by simulation"],
  ["assumed", "Assumed, neither seen nor measured"],
  ["not-tested", "Not tested"],
];

/** What the customer is told, as the record has it, and how each thing is known. */
export function RecordStage() {
  const { circuit } = useWork();
  const { currency } = useSettings();
  const { data, error, isPending } = useHandover(circuit.id, currency);
  const record = `/api/v1/jobs/${circuit.job}/record`;
  const money = currency ? `currency=${currency}` : "";
  if (!data) return <>{isPending ? <Waiting what="Writing the record" /> : <Notice error={error} />}</>;
  const { handover: h, claims } = data;
  return (
    <div className="mx-auto max-w-[62rem]">
      <h2 className="text-[1.6rem]">{h.is}</h2>
      <p className={look.lead}>{h.status}</p>
      {!h.begun && (
        <p className="pt-2">
          <Link className={look.strong} to={`/circuits/${circuit.id}/${circuit.choice ? "fit" : "choose"}`}>
            {circuit.choice ? "Fit the plan" : "Choose a plan"}
          </Link>
        </p>
      )}
      <div className={`${look.row} items-center py-3 print:hidden`}>
        <Document strong={h.begun} href={`${record}${money && `?${money}`}`} name="Record of the job, PDF" />
        <Document href={`${record}?annex=true${money && `&${money}`}`} name="With its annex, PDF" />
        <a className={look.button} href={`/api/v1/circuits/${circuit.id}/readings`} download>
          Readings, CSV
        </a>
        {h.batteries.length > 0 && (
          <a className={look.button} href={`/api/v1/circuits/${circuit.id}/batteries`} download>
            Battery dates, calendar
          </a>
        )}
        <Link className={look.button} to={`/jobs/${circuit.job}`}>
          Customer and job
        </Link>
      </div>
      <Sentences title="Left out, or not right" list={h.wrong} strong />
      {h.inPart && <p className="py-2">{h.inPart}</p>}
      <Places title="How to use it" list={h.use} />
      <Sentences title="When something fails" list={h.fails} />
      <Sentences title="Links" list={h.links} />
      <Sentences title="Batteries" list={h.batteries} />
      <Sentences title="Schedules, and what they take" list={h.schedules} />
      <Places title="Devices" list={h.devices} />
      {h.open.length > 0 && (
        <section className={look.chapter}>
          <h3>Not tested</h3>
          <p>{h.open.join("; ")}.</p>
          <Fold title="Each of them">
            <ul className={look.dashes}>
              {h.untested.map((text) => (
                <li key={text}>{text}</li>
              ))}
            </ul>
          </Fold>
        </section>
      )}
      <section className={look.chapter}>
        <h3>The old wiring</h3>
        <p>{h.back}</p>
      </section>
      <section className={look.chapter}>
        <h3>How the record knows</h3>
        {claims.length === 0 && <p>Nothing was read, fitted or tested yet.</p>}
        {kinds.map(([kind, title]) => {
          const of = claims.filter((c) => c.kind === kind);
          return (
            of.length > 0 && (
              <Fold key={kind} title={`${title}: ${of.length}`}>
                <ul className={look.dashes}>
                  {of.map((c) => (
                    <li key={c.what}>{c.text}</li>
                  ))}
                </ul>
              </Fold>
            )
          );
        })}
      </section>
    </div>
  );
}

function Sentences(props: { title: string; list: string[]; strong?: boolean }) {
  if (props.list.length === 0) return null;
  return (
    <section className={props.strong ? look.caution : look.chapter}>
      <h3>{props.title}</h3>
      <ul className={look.dashes}>
        {props.list.map((text) => (
          <li key={text}>{text}</li>
        ))}
      </ul>
    </section>
  );
}

function Places(props: { title: string; list: Schemas["Told"][] }) {
  if (props.list.length === 0) return null;
  return (
    <section className={look.chapter}>
      <h3>{props.title}</h3>
      <dl className="grid grid-cols-[minmax(8rem,16rem)_1fr] gap-x-5 gap-y-1.5">
        {props.list.map((x) => (
          <div key={`${x.name} ${x.text}`} className="contents">
            <dt className="font-semibold">{x.name}</dt>
            <dd>{x.text}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
