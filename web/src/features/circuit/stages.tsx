import { lazy, useEffect, useRef } from "react";
import { Link } from "react-router";

/** The stages of a circuit's screen in the order of the work, each with the key that opens it. */
export const stages = [
  { id: "survey", name: "Survey", key: "s" },
  { id: "trace", name: "Trace", key: "t" },
  { id: "choose", name: "Choose", key: "c" },
  { id: "rehearse", name: "Rehearse", key: "r" },
  { id: "wire", name: "Wire", key: "w" },
  { id: "fit", name: "Fit", key: "f" },
  { id: "prove", name: "Prove", key: "p" },
  { id: "use", name: "Use", key: "i" } /* U is an answer in Trace */,
  { id: "record", name: "Record", key: "o" },
] as const;

export type StageId = (typeof stages)[number]["id"];

/** Stages that take the whole screen: no drawing stands beside them. */
export const whole: readonly StageId[] = ["rehearse", "use", "record"];

// Each stage is fetched when it is first opened, and all of them soon after the first stands.
const later = {
  survey: () => import("../survey/SurveyStage"),
  trace: () => import("../trace/TraceStage"),
  choose: () => import("../choose/ChooseStage"),
  rehearse: () => import("../rehearse/RehearseStage"),
  wire: () => import("../wire/WireStage"),
  wiring: () => import("../wire/WholeWiring"),
  fit: () => import("../fit/FitStage"),
  board: () => import("../fit/FitBoard"),
  prove: () => import("../prove/ProveStage"),
  use: () => import("../use/UseStage"),
  record: () => import("../record/RecordStage"),
};
export const SurveyStage = lazy(() => later.survey().then((m) => ({ default: m.SurveyStage })));
export const TraceStage = lazy(() => later.trace().then((m) => ({ default: m.TraceStage })));
export const ChooseStage = lazy(() => later.choose().then((m) => ({ default: m.ChooseStage })));
export const RehearseStage = lazy(() => later.rehearse().then((m) => ({ default: m.RehearseStage })));
export const WireStage = lazy(() => later.wire().then((m) => ({ default: m.WireStage })));
export const WireBoard = lazy(() => later.wiring().then((m) => ({ default: m.WireBoard })));
export const FitStage = lazy(() => later.fit().then((m) => ({ default: m.FitStage })));
export const FitBoard = lazy(() => later.board().then((m) => ({ default: m.FitBoard })));
export const ProveStage = lazy(() => later.prove().then((m) => ({ default: m.ProveStage })));
export const UseStage = lazy(() => later.use().then((m) => ({ default: m.UseStage })));
export const RecordStage = lazy(() => later.record().then((m) => ({ default: m.RecordStage })));

/** Fetches what is not here yet, so that no stage is waited for where the way to the program is long. */
export function useStagesSoon() {
  useEffect(() => {
    const timer = setTimeout(() => {
      for (const stage of Object.values(later)) void stage().catch(() => undefined);
    }, 1500);
    return () => clearTimeout(timer);
  }, []);
}

const link =
  "inline-flex min-h-12 shrink-0 items-center border-b-4 border-transparent px-2.5 font-serif text-[1.05rem] font-semibold no-underline aria-[current=step]:border-ink max-xl:px-2 max-sm:border-t-4 max-sm:border-b-0 max-sm:px-3 max-sm:text-[0.95rem]";

/** The ways to all stages, the one that is open in sight. */
export function StageLinks(props: { circuit: string; open: StageId; search: string; className: string }) {
  const row = useRef<HTMLElement>(null);
  useEffect(() => {
    const open = row.current?.querySelector("[aria-current=step]");
    if (row.current && open instanceof HTMLElement)
      row.current.scrollLeft = open.offsetLeft - (row.current.clientWidth - open.clientWidth) / 2;
  }, [props.open]);
  return (
    <nav ref={row} className={props.className} aria-label="Stages">
      {stages.map((s) => (
        <Link
          key={s.id}
          to={{ pathname: `/circuits/${props.circuit}/${s.id}`, search: props.search }}
          aria-current={s.id === props.open ? "step" : undefined}
          className={link}
        >
          {s.name}
        </Link>
      ))}
    </nav>
  );
}
