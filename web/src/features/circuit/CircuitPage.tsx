import { useQueryClient } from "@tanstack/react-query";
import { Check, Download, Redo2, Undo2 } from "lucide-react";
import { Popover } from "radix-ui";
import { Suspense, useEffect, useRef, useState } from "react";
import { Link, useLocation, useNavigate, useParams, useSearchParams, type NavigateOptions } from "react-router";
import { ProblemError } from "../../api/client";
import { keys } from "../../api/keys";
import { useChange, useCircuit, useOption, usePlan, usePractices, useTrace, type Prefer } from "../../api/queries";
import { useFitting, useProof } from "../../api/fitting";
import { OptionBoard } from "../choose/OptionDrawing";
import { LiveDiagram } from "../drawing/LiveDiagram";
import { Strip } from "./Strip";
import {
  ChooseStage,
  FitBoard,
  FitStage,
  ProveStage,
  RecordStage,
  RehearseStage,
  StageLinks,
  stages,
  SurveyStage,
  TraceStage,
  UseStage,
  useStagesSoon,
  whole,
  WireBoard,
  WireStage,
  type StageId,
} from "./stages";
import { WorkContext, type Work } from "./work";
import { Notice, Waiting } from "../../ui/Notice";
import { Cautions, NotHere, Shell, Trail } from "../../ui/Shell";
import { fileName } from "../../ui/fileName";
import { useToast } from "../../ui/Toasts";
import { useKeys } from "../../ui/useKeys";
import { useWide } from "../../ui/useWide";
import { useOnce } from "../../ui/useOnce";
import { look } from "../../ui/look";
import { Tool } from "../../ui/Tool";

/** Stages whose next thing stands in themselves, once a plan is chosen. */
const later: readonly StageId[] = ["wire", "fit", "prove", ...whole];
const preferKey = "ambivia-prefer";

/** How wide the inspector is where there is less to draw than a whole circuit, or more to say. */
const benches: { [stage in StageId]?: string } = {
  choose: "grid-cols-[minmax(0,1fr)_54vw]",
  fit: "grid-cols-[minmax(0,1fr)_clamp(24rem,38vw,36rem)]",
};

/** On a phone the stages lie at the thumb, with the one next thing above them. */
const atThumb =
  "border-b border-ink px-6 max-sm:fixed max-sm:inset-x-0 max-sm:bottom-0 max-sm:z-5 max-sm:flex max-sm:flex-col-reverse max-sm:border-t max-sm:border-b-0 max-sm:bg-paper max-sm:px-0 print:hidden";
const nextAtThumb =
  "py-1.5 text-[1.02rem] max-sm:max-h-[3.4rem] max-sm:overflow-y-auto max-sm:border-b max-sm:border-rule max-sm:px-3.5 max-sm:py-1 max-sm:text-[0.95rem]";

/** Whether a place in the history was made by opening a sheet. */
const isSheet = (state: unknown) => typeof state === "object" && state !== null && "sheet" in state;

export function CircuitPage() {
  const params = useParams();
  const id = params.circuit ?? "";
  const known = stages.find((s) => s.id === params.stage)?.id;
  const stage: StageId = known ?? "survey";
  const [search, setSearch] = useSearchParams();
  const go = useNavigate();
  const sheet = isSheet(useLocation().state);
  const queries = useQueryClient();
  const circuit = useCircuit(id);
  const practices = usePractices();
  const change = useChange(id);
  const once = useOnce();
  const say = useToast();
  const wide = useWide();

  const data = circuit.data;
  const [prefer, setPrefer] = useState<Prefer>(() => (localStorage.getItem(preferKey) === "trips" ? "trips" : "dead"));
  const toward = search.get("toward") ?? undefined; // the plan that leads the tests
  const trace = useTrace(id, data?.revision ?? "", prefer, toward, stage === "trace" && (data?.document.boxes.length ?? 0) > 0);
  const shown = stage === "choose" ? (search.get("show") ?? undefined) : undefined;
  const option = useOption(id, data?.revision ?? "", shown);
  const plan = usePlan(id, data?.revision ?? "", stage === "choose");
  const offered = plan.data?.options.find((o) => o.feasible && o.id === shown);
  const logged = stage === "fit" || stage === "prove"; // there one takes back what the log says, and not the record
  const fitting = useFitting(id, logged);
  const proof = useProof(id, data?.revision ?? "", stage === "prove" && (data?.document.boxes.length ?? 0) > 0);
  const steps = fitting.data?.steps.length ?? 0;
  const at = Math.min(Math.max(1, Math.round(Number(search.get("step"))) || fitting.data?.now || 1), Math.max(1, steps));
  const stops = data?.reading.strip ?? [];
  const box = stops.some((s) => s.box === search.get("box"))
    ? (search.get("box") ?? undefined)
    : (stops.find((s) => s.kind === "switch") ?? stops[0])?.box;
  /** Puts where one is into the address; what is empty is taken out of it. */
  const place = (at: Record<string, string | undefined>, how: NavigateOptions = { replace: true }) =>
    setSearch((before) => {
      for (const [key, value] of Object.entries(at)) {
        if (value) before.set(key, value);
        else before.delete(key);
      }
      return before;
    }, how);
  const setBox = (next: string) => place({ box: next });
  /** Shows an option. On a small screen it is a sheet: Back puts it away, and so does its own button. */
  const show = (next: string | undefined) => {
    if (wide) return place({ show: next });
    if (next === undefined && sheet) return void go(-1);
    place({ show: next }, { replace: next === undefined || shown !== undefined, state: next === undefined ? null : { sheet: true } });
  };
  const [pointed, setPointed] = useState<string[]>([]);
  const step = (by: number) => {
    const at = stops.findIndex((s) => s.box === box);
    const next = stops[at + by];
    if (next) setBox(next.box);
  };
  const to = (next: StageId) => void go({ pathname: `/circuits/${id}/${next}`, search: search.toString() });
  useStagesSoon();
  const inspector = useRef<HTMLElement>(null);
  useEffect(() => {
    scrollTo({ top: 0 }); // what is new opens at its top
    if (inspector.current) inspector.current.scrollTop = 0;
  }, [stage]);
  useKeys({
    "mod+z": data?.canUndo && !logged ? () => change.mutate({ do: "undo" }) : undefined,
    "mod+shift+z": data?.canRedo && !logged ? () => change.mutate({ do: "redo" }) : undefined,
    "mod+y": data?.canRedo && !logged ? () => change.mutate({ do: "redo" }) : undefined,
    "[": () => step(-1),
    "]": () => step(1),
    ...Object.fromEntries(stages.map((s) => [s.key, () => to(s.id)])),
  });

  if (!known) return <NotHere />;
  // The practice's words stand in most sentences: what came without them would move when they come.
  if (!data || practices.isPending) {
    return (
      <Shell title="Circuit">
        {circuit.isPending || practices.isPending ? (
          <Waiting what="Reading the circuit" />
        ) : (
          <section className={look.page}>
            <Notice error={circuit.error} />
          </section>
        )}
      </Shell>
    );
  }
  const practice = practices.data?.find((p) => p.id === data.document.practice);
  const work: Work = {
    circuit: data,
    practice,
    box,
    setBox,
    place,
    pointed,
    point: (ends, at) => {
      const [ref = "", end] = (ends[0] ?? "").split("@");
      const where = end ?? data.document.devices.find((d) => d.id === ref.split(".")[0])?.box;
      if (where || at) place({ ...(where ? { box: where } : {}), ...at });
      setPointed(ends);
    },
    change: (next, then) =>
      once(JSON.stringify(next), () =>
        change.mutateAsync(next).then((now) => {
          const removed = next.do === "edit" && next.edit.op.startsWith("remove-");
          say(removed ? { text: `${now.summary}.`, undo: () => change.mutate({ do: "undo" }) } : undefined);
          then?.(now);
        }),
      ),
    busy: change.isPending,
    word: (name) => practice?.words[name] ?? name,
  };
  const pickStep = (step: number) => {
    const of = fitting.data?.steps[step - 1];
    place({ step: step > 0 ? String(step) : undefined, ...(of?.box ? { box: of.box } : {}) });
  };
  const stale = change.error instanceof ProblemError && change.error.problem.code === "stale";
  const name = fileName(data.document.name ?? "circuit");
  const bench = wide && data.document.boxes.length > 0;
  const strip = <Strip bench={bench} stops={stage === "trace" ? trace.data?.strip : shown ? option.data?.strip : undefined} />;
  const tested = stage === "trace" && trace.data?.next && !bench; // its card stands first
  const next = (!later.includes(stage) || !data.choice) && !tested && (
    <p
      className={`before:font-bold before:content-["→_"] ${bench ? `border-b border-rule bg-room px-4 py-3 ${stage === "trace" ? "min-h-18" : ""}` : nextAtThumb}`}
      role="status"
    >
      {stage === "trace"
        ? trace.error
          ? "This cannot be traced."
          : said(trace.data)
        : stage === "survey" || !data.choice
          ? data.reading.next
          : `Chosen: ${data.choice.option.title}.`}
    </p>
  );
  const trouble = (
    <Notice error={change.error}>
      {stale ? (
        <button
          type="button"
          className={`${look.button} mt-2`}
          onClick={() => {
            change.reset();
            void queries.invalidateQueries({ queryKey: keys.circuit(id) });
          }}
        >
          Show the newest and go on
        </button>
      ) : (
        <button type="button" className={`${look.button} mt-2`} onClick={() => change.reset()}>
          Close
        </button>
      )}
    </Notice>
  );
  const content = (
    <Suspense
      fallback={
        <div data-arriving>
          <Waiting what="Opening" />
        </div>
      }
    >
      {stage === "survey" && <SurveyStage bench={bench} />}
      {stage === "trace" && (
        <TraceStage
          bench={bench}
          trace={trace}
          prefer={prefer}
          setPrefer={(p) => {
            localStorage.setItem(preferKey, p);
            setPrefer(p);
          }}
        />
      )}
      {stage === "choose" && <ChooseStage bench={bench} plan={plan} shown={shown} show={show} />}
      {stage === "wire" && <WireStage bench={bench} />}
      {stage === "fit" && <FitStage bench={bench} fitting={fitting} at={at} pick={pickStep} />}
      {stage === "prove" && <ProveStage bench={bench} proof={proof} undo={fitting.data?.undo ?? 0} />}
      {stage === "rehearse" && <RehearseStage />}
      {stage === "use" && <UseStage />}
      {stage === "record" && <RecordStage />}
    </Suspense>
  );
  return (
    <WorkContext.Provider value={work}>
      <Shell
        title={data.document.name ?? "Circuit"}
        bench={bench}
        middle={
          bench && <StageLinks circuit={id} open={stage} search={search.toString()} className="flex flex-none items-stretch print:hidden" />
        }
        trail={
          <>
            <span aria-hidden>›</span>
            <Link to={`/jobs/${data.job}`}>{data.jobName}</Link>
            <Trail>{data.document.name}</Trail>
          </>
        }
        tools={
          <>
            <SavedMark busy={change.isPending} failed={change.isError} />
            <Tool
              icon={Undo2}
              label={data.canUndo ? `Undo: ${data.summary}` : "Nothing to undo"}
              hint={data.canUndo ? `Undo: ${data.summary}${logged ? "" : " (Ctrl Z)"}` : "Nothing to undo"}
              disabled={!data.canUndo || change.isPending}
              onClick={() => change.mutate({ do: "undo" })}
            />
            <Tool
              icon={Redo2}
              label={data.canRedo ? "Redo" : "Nothing to redo"}
              hint={data.canRedo ? "Redo (Ctrl Y)" : "Nothing to redo"}
              disabled={!data.canRedo || change.isPending}
              onClick={() => change.mutate({ do: "redo" })}
            />
            <Popover.Root>
              <Popover.Trigger asChild>
                <Tool icon={Download} label="Export" />
              </Popover.Trigger>
              <Popover.Portal>
                <Popover.Content className={`${look.popover} w-72`} align="end" sideOffset={6} aria-label="Export this circuit">
                  <a className={`${look.button} w-full`} href={`/api/v1/circuits/${id}/file`} download={`${name}.json`}>
                    Circuit file
                  </a>
                  <Link className={`${look.button} w-full mt-2`} to={`/circuits/${id}/history`}>
                    History: every revision
                  </Link>
                  <a className={`${look.button} w-full mt-2`} href={`/api/v1/circuits/${id}/netlist`} download={`${name}.cir`}>
                    Netlist for circuit simulators
                  </a>
                </Popover.Content>
              </Popover.Portal>
            </Popover.Root>
          </>
        }
      >
        <h1 className="sr-only">{data.document.name}</h1>
        {whole.includes(stage) ? (
          <section
            ref={inspector}
            className={bench ? "relative min-h-0 flex-1 overflow-y-auto" : undefined}
            aria-label={stages.find((s) => s.id === stage)?.name}
            tabIndex={bench ? 0 : undefined}
          >
            {!bench && (
              <div className={atThumb}>
                <StageLinks circuit={id} open={stage} search={search.toString()} className="flex overflow-x-auto" />
              </div>
            )}
            {trouble}
            <div className={`min-h-full ${look.wide}`}>{content}</div>
            {bench && <Cautions />}
          </section>
        ) : bench ? (
          <>
            {strip}
            <div className={`grid min-h-0 flex-1 ${benches[stage] ?? "grid-cols-[minmax(0,1fr)_clamp(24rem,31vw,36rem)]"}`}>
              <Suspense fallback={<Waiting what="Drawing" />}>
                {offered ? (
                  <OptionBoard option={offered} />
                ) : stage === "wire" && data.choice ? (
                  <WireBoard />
                ) : stage === "fit" && data.choice ? (
                  <FitBoard fitting={fitting.data} at={at} />
                ) : stage === "prove" && data.choice ? (
                  <LiveDiagram key="planned" of="planned" heading="As it will be" board keys={false} />
                ) : (
                  <LiveDiagram
                    key="found"
                    of="found"
                    heading={stage === "choose" ? "Today" : "As recorded"}
                    board
                    whole={stage === "choose"}
                    flagged={stage === "survey"}
                    probes={stage === "trace" ? trace.data?.next?.test.at : undefined}
                    lifted={stage === "trace" ? trace.data?.next?.test.lifted : undefined}
                  />
                )}
              </Suspense>
              <section
                ref={inspector}
                className="relative min-h-0 scroll-pb-24 overflow-y-auto border-l border-ink wrap-anywhere"
                aria-label="Inspector"
                tabIndex={0}
              >
                <div className="min-h-full">
                  {next}
                  {trouble}
                  {content}
                </div>
                <Cautions />
              </section>
            </div>
          </>
        ) : (
          <>
            {strip}
            <div className={atThumb}>
              <StageLinks circuit={id} open={stage} search={search.toString()} className="flex overflow-x-auto" />
              {next}
            </div>
            {trouble}
            {content}
          </>
        )}
      </Shell>
    </WorkContext.Provider>
  );
}

/** Whether what was changed last is kept. */
function SavedMark(props: { busy: boolean; failed: boolean }) {
  return (
    <span role="status" className="inline-flex items-center gap-1 px-1 text-sm text-soft max-sm:sr-only">
      {!props.busy && !props.failed && <Check aria-hidden size={14} />}
      {/* Beside nine stages there is room for the mark alone, as long as all is well. */}
      {props.busy || props.failed ? props.busy ? "Saving …" : "Not saved" : <span className="min-[1400px]:not-sr-only sr-only">Saved</span>}
    </span>
  );
}

/** How far tracing is, in one sentence. */
function said(answer: ReturnType<typeof useTrace>["data"]): string {
  if (!answer) return "Going through every circuit that fits …";
  if (answer.contradiction) return answer.contradiction.text;
  if (answer.done) return "Traced: every conductor that can be seen is certain.";
  if (answer.next) return answer.next.measure + ".";
  return answer.settle ?? "";
}
