import { useQueryClient, type UseQueryResult } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import type { Prefer } from "../../api/queries";
import { Notice } from "../../ui/Notice";
import { ByHand } from "./ByHand";
import { Odds } from "./Odds";
import { PracticeHouse } from "./PracticeHouse";
import { Reports } from "./Reports";
import { TestCard } from "./TestCard";
import { TestTree } from "./TestTree";
import { Assumed, TraceFindings, TraceQuestions, Walks } from "./TraceFacts";
import { TraceLog } from "./TraceLog";
import { useWork } from "../circuit/work";
import type { Answer } from "./answer";
import { OneOf } from "../../ui/OneOf";
import { Card, Large } from "./Card";
import { Fold } from "../../ui/Fold";
import { look } from "../../ui/look";
import { Document } from "../wire/Papers";
import { keys } from "../../api/keys";

/** Find line, load, travelers and neutral: one test at a time, until all is certain. */
export function TraceStage(props: { bench: boolean; trace: UseQueryResult<Answer>; prefer: Prefer; setPrefer: (p: Prefer) => void }) {
  const { circuit, word } = useWork();
  const { data, error, isFetching, isPlaceholderData } = props.trace;
  if (circuit.document.boxes.length === 0) {
    return (
      <div className="mx-6 py-2 max-sm:mx-3.5">
        <p className={look.empty}>
          There is nothing to trace yet. <Link to={`/circuits/${circuit.id}/survey`}>Record the boxes that you opened</Link>: their cables,
          their switches, what stands under which screw. Leave every far end that you cannot see unknown.
        </p>
      </div>
    );
  }
  const preference = (
    <div className={`flex flex-wrap items-center gap-x-6 ${props.bench ? "px-4 py-1" : "mb-2"}`}>
      <OneOf
        label="What to spare"
        value={props.prefer}
        options={[
          ["dead", "Dead tests first"],
          ["trips", "Fewest walks"],
        ]}
        set={(p) => props.setPrefer(p === "trips" ? "trips" : "dead")}
      />
      {!circuit.document.observations?.some((o) => o.lifted) && (
        <Document href={`/api/v1/circuits/${circuit.id}/paper/found-labels`} name="Labels as found, PDF" />
      )}
      {data && (
        <p className="ml-auto text-soft">
          {data.worlds === 1 ? "1 circuit fits" : `${data.worlds}${data.more ? " or more" : ""} circuits fit`} · {data.walks}{" "}
          {data.walks === 1 ? "walk" : "walks"} to the {word("panel")} so far{data.on ? `, ${word("breaker")} on` : ""}
        </p>
      )}
    </div>
  );
  return (
    <div className="trace py-2">
      {props.bench && preference}
      <Notice error={error} />
      {isFetching && <Working slow={!data || isPlaceholderData} />}
      {data && (
        <div className={look.columns(props.bench)}>
          <div>
            <TraceFindings answer={data} />
            {data.contradiction && <Clash of={data.contradiction} />}
            {data.toward && <TowardPlan of={data.toward} />}
            {data.next && (
              <TestCard
                key={JSON.stringify(data.next.test)}
                next={data.next}
                of={data.worlds}
                waiting={isPlaceholderData}
                pictured={!props.bench}
                conductors={data.conductors}
                cannot={data.cannot}
              />
            )}
            {!props.bench && preference}
            {data.look && (
              <section className={look.chapter} aria-label="See for yourself">
                <h2>See for yourself</h2>
                <Large>{data.look.text}</Large>
                {data.look.next && (
                  <TestCard
                    key={JSON.stringify(data.look.next.test)}
                    next={data.look.next}
                    of={Math.max(...data.look.next.outcomes.map((o) => o.worlds))}
                    waiting={isPlaceholderData}
                    heading="Flip and look"
                  />
                )}
              </section>
            )}
            {data.putBack.length > 0 && (
              <Fold title="Put it back as found">
                <ol className="list-decimal pl-6 [&>li]:py-0.5">
                  {data.putBack.map((text) => (
                    <li key={text}>{text}</li>
                  ))}
                </ol>
              </Fold>
            )}
            {data.done && <Done answer={data} />}
            {!data.next && data.open.length > 0 && <Open answer={data} />}
            <Walks answer={data} prefer={props.prefer} waiting={isPlaceholderData} />
            <Assumed answer={data} />
            <TraceQuestions answer={data} />
            <Reports said={data.reports} />
            <ByHand />
            {!data.done && !data.contradiction && <TestTree prefer={props.prefer} />}
            <PracticeHouse done={data.done} />
          </div>
          <div>
            <Odds answer={data} />
            <TraceLog log={data.log} clash={data.contradiction?.readings ?? []} />
          </div>
        </div>
      )}
    </div>
  );
}

/** What is worked on, for how long, and the way out of it. */
function Working(props: { slow: boolean }) {
  const { circuit } = useWork();
  const queries = useQueryClient();
  const [seconds, setSeconds] = useState(0);
  useEffect(() => {
    const tick = setInterval(() => setSeconds((s) => s + 1), 1000);
    return () => clearInterval(tick);
  }, []);
  if (!props.slow || seconds < 1)
    return (
      <p className="sr-only" role="status">
        Working out what the walls may hide
      </p>
    );
  return (
    <p className="flex items-center gap-4" role="status">
      Going through every circuit that fits … {seconds} s
      <button type="button" className={look.button} onClick={() => void queries.cancelQueries({ queryKey: keys.trace(circuit.id) })}>
        Stop
      </button>
    </p>
  );
}

/** The plan that leads the tests, with what it still needs. */
function TowardPlan({ of }: { of: NonNullable<Answer["toward"]> }) {
  const { circuit } = useWork();
  const left = of.relies.length;
  return (
    <Card label="The plan that leads the tests">
      <h2>Toward: {of.title}</h2>
      {of.refused ? (
        <p>This plan does not fit what is likeliest now: {of.refused}</p>
      ) : of.enough ? (
        <p>Nothing left to test for this plan.</p>
      ) : (
        <p>
          {left} {left === 1 ? "test" : "tests"} to go.
        </p>
      )}
      <p className="flex flex-wrap gap-3">
        <Link
          className={of.enough ? look.strong : look.button}
          to={{ pathname: `/circuits/${circuit.id}/choose`, search: `?show=${encodeURIComponent(of.option)}` }}
        >
          Back to the plan
        </Link>
        <Link className={look.button} to={`/circuits/${circuit.id}/trace`}>
          Trace everything instead
        </Link>
      </p>
    </Card>
  );
}

function Clash({ of }: { of: NonNullable<Answer["contradiction"]> }) {
  return (
    <Card label="A contradiction" alert>
      <h2>Something recorded or read is not so</h2>
      <p>{of.text}</p>
      <Large>{of.recheck}</Large>
      {of.readings.length > 0 && (
        <p className="text-soft">The readings that clash are marked in the log; take back the one that you doubt.</p>
      )}
      {of.records.map((r) => (
        <p key={r}>To look at again: {r}.</p>
      ))}
    </Card>
  );
}

function Done({ answer }: { answer: Answer }) {
  const { circuit, change, busy, word } = useWork();
  const open = circuit.document.cables.some((k) => k.ends.includes(null));
  return (
    <Card label="Traced">
      <h2>Everything that can be seen is certain</h2>
      <p>
        {answer.worlds === 1
          ? "One circuit is left."
          : `${answer.worlds}${answer.more ? " or more" : ""} circuits are left, and all give every conductor the same role.`}
        {answer.on ? ` Turn the ${word("breaker")} off before anything is put back.` : ""}
        {answer.polarity === "unknown"
          ? ` Which of the feed’s two conductors is ${word("line")} is assumed: read it against ${word("ground")}, with the power on, before anything is fitted.`
          : ""}
      </p>
      {answer.safer && (
        <p>
          {answer.safer.text}{" "}
          <button
            type="button"
            className={look.small}
            disabled={busy}
            onClick={() => change({ do: "edit", edit: { op: "set-circuit", confirm: "always" } })}
          >
            Make sure
          </button>
        </p>
      )}
      {open ? (
        <>
          <p className="text-soft">
            Made the record, it holds the boxes behind the walls too, each fact marked as seen, measured or assumed. Undo brings the survey
            back.
          </p>
          <button type="button" className={look.strong} disabled={busy} onClick={() => change({ do: "record" })}>
            Make it the circuit of record
          </button>
        </>
      ) : (
        <p>
          It is the circuit of record. <Link to={`/circuits/${circuit.id}/choose`}>Choose what it will become</Link>.
        </p>
      )}
    </Card>
  );
}

function Open({ answer }: { answer: Answer }) {
  const { word } = useWork();
  return (
    <Card label="What stays open">
      <h2>No test can settle what is left, with these boxes open</h2>
      <ul className={look.dashes}>
        {answer.open.map((o) => (
          <li key={o.end}>
            {o.text}: {Object.keys(o.roles).map(word).join(" or ")}
          </li>
        ))}
      </ul>
      <Large>{answer.settle}</Large>
    </Card>
  );
}
