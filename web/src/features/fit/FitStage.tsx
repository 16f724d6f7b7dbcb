import { useQueryClient, type UseQueryResult } from "@tanstack/react-query";
import { Undo2 } from "lucide-react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { useLog, type Entry, type Fitting } from "../../api/fitting";
import { look } from "../../ui/look";
import { Notice, Waiting } from "../../ui/Notice";
import { useKeys } from "../../ui/useKeys";
import { useOnce } from "../../ui/useOnce";
import { useWork } from "../circuit/work";
import { Asks } from "../circuit/Asks";
import { LogList } from "./LogList";
import { Power } from "./Power";
import { StepCard } from "./StepCard";
import { StepList } from "./StepList";
import { Times } from "./Times";
import { keys } from "../../api/keys";

/** The steps of the chosen plan, lived: each is done, left out for a reason, or not as drawn; the log keeps it. */
export function FitStage(props: { bench: boolean; fitting: UseQueryResult<Fitting>; at: number; pick: (step: number) => void }) {
  const { circuit } = useWork();
  const queries = useQueryClient();
  const log = useLog(circuit.id);
  const once = useOnce();
  const { data, error, isPending } = props.fitting;
  const add = (entry: Entry) => once("log", () => log.mutateAsync({ entry }).then((now) => props.pick(now.now)));
  const begin = (way: "forth" | "back") => once("log", () => log.mutateAsync({ way }).then((now) => props.pick(now.now)));
  const takeBack = () => data && data.undo > 0 && add({ kind: "undo", of: data.undo });
  useKeys({ "mod+z": data && data.undo > 0 && !log.isPending ? takeBack : undefined });
  const gutter = props.bench ? "px-4 py-3" : `py-3 ${look.gutter}`;
  if (isPending || !data) {
    return (
      <div className={gutter}>
        <Notice error={error} />
        {isPending && <Waiting what="Reading the log" />}
      </div>
    );
  }
  const step = data.steps[props.at - 1];
  return (
    <div className={`grid gap-3 ${gutter}`}>
      <Notice error={error ?? log.error}>
        {log.isError && (
          <button
            type="button"
            className={`${look.button} mt-2`}
            onClick={() => {
              log.reset();
              void queries.invalidateQueries({ queryKey: keys.fitting(circuit.id) });
            }}
          >
            Show how it stands
          </button>
        )}
      </Notice>
      {!data.way && !circuit.choice && (
        <p className={look.empty}>
          No plan is chosen yet. <Link to={`/circuits/${circuit.id}/choose`}>Choose one</Link>, and its steps are done here one by one.
        </p>
      )}
      {data.way && <Power fitting={data} />}
      {data.conflicts.length > 0 && (
        <div className={look.notice} role="status">
          <div>
            <p>The record was corrected since. What was done before and does not go with it:</p>
            <ul className={look.dashes}>
              {data.conflicts.map((text) => (
                <li key={text}>{text}</li>
              ))}
            </ul>
          </div>
        </div>
      )}
      {data.secure && (
        <section aria-label="Make it safe" className="border-[3px] border-double border-ink bg-sheet p-4">
          <h2>Make it safe first</h2>
          <p className="py-1">
            Something is, or may be, live that was held to be dead. No step with bare metal is open until this is confirmed.
          </p>
          <Asks
            key={data.last}
            asks={data.secure}
            busy={log.isPending}
            label="All is off and dead"
            done={(asked) => add({ kind: "secure", asked })}
          />
        </section>
      )}
      {data.stopped && <Stopped fitting={data} undo={takeBack} />}
      {step && !data.over && !data.stopped && (
        <StepCard
          key={`${step.number} ${data.since ?? ""} ${data.states[props.at - 1]?.status ?? ""}`}
          step={step}
          steps={data.steps}
          title={data.cards.find((c) => c.steps.includes(step.number))?.title ?? ""}
          of={data.steps.length}
          state={data.states[props.at - 1]}
          next={data.now}
          last={data.last}
          busy={log.isPending}
          pictured={!props.bench}
          proves={data.proves}
          add={add}
          pick={props.pick}
        />
      )}
      {data.over && data.way && (
        <section aria-label="Over" className="border-[3px] border-double border-ink bg-sheet p-4">
          <h2>{data.way === "back" ? "It stands as it was found" : "Every step is settled"}</h2>
          {data.way !== "back" && (
            <p className="py-1">
              <Link to={`/circuits/${circuit.id}/prove`}>Prove it</Link>: the fewest presses that would show any single mistake.
            </p>
          )}
        </section>
      )}
      {!data.way && circuit.choice && data.mayBegin && <Ahead option={circuit.choice.option} />}
      <div className={look.row}>
        {circuit.choice && data.mayBegin && (
          <button type="button" className={look.strong} disabled={log.isPending} onClick={() => begin("forth")}>
            {data.way ? "Plan from the wiring as it stands" : `Begin: ${circuit.choice.option.title}`}
          </button>
        )}
        {data.undo > 0 && !data.stopped && (
          <button type="button" className={look.button} disabled={log.isPending} onClick={takeBack}>
            <Undo2 aria-hidden size={18} /> <kbd aria-hidden>Ctrl Z</kbd> Take the last entry back
          </button>
        )}
        {data.mayGoBack && circuit.choice && (
          <button type="button" className={look.button} disabled={log.isPending} onClick={() => begin("back")}>
            Put it back
          </button>
        )}
      </div>
      {data.way && data.changed && !data.over && (
        <p className="text-soft">The record was changed since this run began. Its steps are as they were; a new run takes the change.</p>
      )}
      {data.steps.length > 0 && <StepList fitting={data} at={props.at} pick={props.pick} />}
      {data.times.length > 0 && <Times fitting={data} />}
      {data.entries.length > 0 && <LogList fitting={data} />}
    </div>
  );
}

/** Something is not as drawn: the ways on. */
function Stopped({ fitting, undo }: { fitting: Fitting; undo: () => void }) {
  const { circuit } = useWork();
  return (
    <section aria-label="Not as drawn" className="grid gap-2 border-[3px] border-double border-ink bg-sheet p-4">
      <h2>Not as drawn</h2>
      <p>{fitting.stopped}</p>
      <ol className="list-decimal pl-6 [&>li]:py-1">
        <li>
          <Link to={`/circuits/${circuit.id}/survey`}>Put what is there into the record as found</Link>: a core more, another colour, a
          loose wire, another switch.
        </li>
        <li>
          <Link to={`/circuits/${circuit.id}/trace`}>See what is certain still</Link>.
        </li>
        <li>
          <Link to={`/circuits/${circuit.id}/choose`}>Choose again</Link>: the same, or what else fits. Then plan from the wiring as it
          stands: what is done already is not done twice.
        </li>
      </ol>
      <div className={look.row}>
        <button type="button" className={look.button} disabled={fitting.undo === 0} onClick={undo}>
          It is as drawn after all
        </button>
      </div>
    </section>
  );
}

/** The time and the boxes that the plan takes, and the tests that come first. */
function Ahead({ option }: { option: Schemas["PlanOption"] }) {
  const { word } = useWork();
  const m = option.metrics;
  if (!m) return null;
  const tests = option.relies.length;
  return (
    <p>
      About {m.minutes} minutes at {m.boxesTouched} {m.boxesTouched === 1 ? "box" : "boxes"}, {m.walks} {m.walks === 1 ? "walk" : "walks"}{" "}
      to the {word("panel")}.{" "}
      {tests > 0 && `${tests === 1 ? "One test comes" : `${tests} tests come`} first: the plan relies on what was not measured.`}
    </p>
  );
}
