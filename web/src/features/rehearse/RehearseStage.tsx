import { useEffect, useState } from "react";
import { useSearchParams } from "react-router";
import type { Schemas } from "../../api/client";
import { useKeepLinks, useLinks, useMove, useRehearsal, type Shown, type What } from "../../api/rehearsal";
import { Choice } from "../../ui/Choice";
import { Fold } from "../../ui/Fold";
import { look } from "../../ui/look";
import { Notice, Waiting } from "../../ui/Notice";
import { useWork } from "../circuit/work";
import { HowLong } from "./HowLong";
import { useKeys } from "../../ui/useKeys";
import { Ramp } from "./Ramp";
import { Rules } from "./Rules";
import { Stage } from "./Stage";
import { StandIn } from "./StandIn";
import { TimeLine, type Step } from "./TimeLine";
import { Verdict } from "./Verdict";

type Move = NonNullable<Schemas["RehearsalMove"]["move"]>;

/** How long a message takes where they arrive by themselves, slow enough to see each. */
const slow = 1200;

/** Links that are not wires, tried by hand: press, let messages arrive in any order, cut a way, step back. */
export function RehearseStage() {
  const { circuit, place: go } = useWork();
  const { id, revision } = circuit;
  const [search] = useSearchParams();
  // Where no plan is chosen yet, that is rehearsed which was looked at last.
  const option = search.get("option") ?? (circuit.choice ? undefined : (search.get("show") ?? undefined));
  const set = search.get("set") ?? undefined;
  const of = option !== undefined || circuit.choice ? "planned" : "found";
  const links = useLinks(id, revision, option, of === "planned");
  const [automation, setAutomation] = useState<Schemas["Automation"]>();
  const what: What = { of, ...(option ? { option } : {}), ...(set ? { set } : {}), ...(automation ? { automation } : {}) };
  const rehearsal = useRehearsal(id, revision, what, true);
  const move = useMove(id);
  const keep = useKeepLinks(id);
  const [down, setDown] = useState("");
  const [pace, setPace] = useState("hand");
  const [steps, setSteps] = useState<Step[]>([]);
  const start = rehearsal.data?.start;
  const now = steps.at(-1)?.shown ?? start;
  const name = (device: string) => rehearsal.data?.speakers.find((p) => p.device === device)?.name ?? device;
  const act = (happens: Move | undefined, step: Omit<Step, "shown">) => {
    if (!now || move.isPending) return;
    move.mutate(
      { what, moment: now.moment, ...(down ? { down } : {}), ...(happens ? { move: happens } : {}) },
      { onSuccess: (shown) => setSteps((before) => [...before, { ...step, shown }]) },
    );
  };
  const arrive = (way: string, fate?: "lost" | "twice") => {
    const first = now?.moment.queues.find((q) => q.via === way)?.messages[0];
    if (!first) return;
    const text = fate === "lost" ? "is lost" : fate === "twice" ? "arrives twice" : "arrives";
    act(
      { deliver: way, ...(fate ? { fate } : {}) },
      { text: `over ${way}, “${first.action}” for ${name(first.to)} ${text}`, way, to: first.to, ...(fate ? { fate } : {}) },
    );
  };
  const waiting = now?.moment.queues.find((q) => q.messages.length > 0)?.via;
  useEffect(() => {
    if (pace !== "slow" || waiting === undefined || move.isPending) return;
    const timer = setTimeout(() => arrive(waiting), slow);
    return () => clearTimeout(timer);
  });
  const again = () => setSteps([]);
  const back = () => setSteps((before) => before.slice(0, -1));
  const press = (place: Shown["places"][number], g: Shown["places"][number]["gestures"][number]) =>
    act({ device: place.device, gesture: g.gesture }, { text: `${g.text} at ${place.name}`, place: place.device });
  useKeys({
    ...Object.fromEntries(
      (now?.places ?? []).slice(0, 9).map((place, i) => {
        // A lit light is switched off, a dark one on: the paddle has up before down.
        const g = place.gestures[now?.lit && place.gestures[1]?.gesture === "down1" ? 1 : 0];
        return [String(i + 1), g && place.awake ? () => press(place, g) : undefined];
      }),
    ),
    ".": waiting === undefined ? undefined : () => arrive(waiting),
    ",": steps.length > 0 ? back : undefined,
  });
  return (
    <>
      <p className={look.lead}>
        Press, let messages arrive in any order, or take the hub down: you see what the links do before you buy them.
      </p>
      <Notice error={rehearsal.error ?? move.error ?? keep.error} />
      {(links.data?.length ?? 0) > 0 && (
        <Choice
          label="How the links are made"
          value={set ?? rehearsal.data?.set ?? links.data?.[0]?.kind ?? ""}
          options={(links.data ?? []).map((s) => [s.kind, `${s.title}: ${s.report.verdict}`])}
          set={(to) => {
            go({ set: to });
            setAutomation(undefined);
            again();
          }}
        />
      )}
      {rehearsal.isPending && <Waiting what="Going through every order of messages" />}
      {rehearsal.data && start && now && (
        <div className="grid grid-cols-1 items-start gap-x-10 gap-y-5 pt-4 lg:grid-cols-[minmax(0,1.15fr)_minmax(0,1fr)]">
          <div className="grid grid-cols-1 gap-4">
            <p>
              {of === "found" ? "As recorded" : option ? "This option" : "The chosen plan"}
              {rehearsal.data.title ? `: ${rehearsal.data.title.toLowerCase()}` : ""}
            </p>
            {rehearsal.data.ways.length === 0 && (
              <p className={look.empty}>No message goes anywhere here: all that this circuit does it does over wires.</p>
            )}
            <Stage
              now={now}
              rehearsal={rehearsal.data}
              down={down}
              setDown={setDown}
              busy={move.isPending}
              pace={pace}
              setPace={setPace}
              name={name}
              press={press}
              arrive={arrive}
              all={() => act(undefined, { text: "messages arrive" })}
            />
            <div className={look.row}>
              <button type="button" className={look.button} disabled={steps.length === 0} onClick={back}>
                Step back <kbd aria-hidden>,</kbd>
              </button>
              <button type="button" className={look.button} disabled={steps.length === 0} onClick={again}>
                From the start
              </button>
            </div>
            <TimeLine start={start} steps={steps} ways={rehearsal.data.ways} />
          </div>
          <div className="grid grid-cols-1 gap-5">
            <Verdict
              rehearsal={rehearsal.data}
              name={name}
              show={(code) => {
                setPace("hand");
                setSteps((rehearsal.data.witnesses[code] ?? []).map((p) => ({ ...p, ...(p.device ? { place: p.device } : {}) })));
              }}
              busy={move.isPending}
            />
            <Rules
              automation={automation ?? rehearsal.data.automation}
              said={rehearsal.data.said}
              speakers={rehearsal.data.speakers}
              ways={rehearsal.data.ways}
              changed={automation !== undefined}
              set={(to) => {
                setAutomation(to);
                again();
              }}
            />
            {of === "planned" && option === undefined && (set !== undefined || automation !== undefined) && (
              <p className={`${look.row} items-center`}>
                <button
                  type="button"
                  className={look.strong}
                  disabled={keep.isPending}
                  onClick={() =>
                    keep.mutate(
                      { base: rehearsal.data.kept, set: set ?? rehearsal.data.set ?? "", ...(automation ? { automation } : {}) },
                      {
                        onSuccess: () => {
                          setAutomation(undefined);
                          go({ set: undefined });
                        },
                      },
                    )
                  }
                >
                  Keep this for the plan
                </button>
                <span className="text-soft">The record and the files have it then.</span>
              </p>
            )}
            {rehearsal.data.ways.length > 0 && (
              <HowLong
                key={rehearsal.data.ways.join(" ")}
                circuit={id}
                revision={revision}
                what={what}
                rehearsal={rehearsal.data}
                name={name}
              />
            )}
            {rehearsal.data.ways.length > 0 && (
              <Fold section title="Up held at a dimmer, and another follows it" open={(rehearsal.data.automation.mirrors ?? []).length > 0}>
                <Ramp key={set} measured={rehearsal.data.measured} both={rehearsal.data.automation.mirrors?.some((m) => m.both) ?? false} />
              </Fold>
            )}
            {rehearsal.data.ways.length > 0 && <StandIn circuit={id} what={what} />}
            {rehearsal.data.ways.length > 0 && (
              <p className={`${look.row} items-center`}>
                <span>The rules as a file:</span>
                {(["json", "csv", "yaml"] as const).map((form) => (
                  <a
                    key={form}
                    className={look.button}
                    download
                    href={`/api/v1/circuits/${id}/rules/${form}?${new URLSearchParams({ of, ...(option ? { option } : {}), ...(set ? { set } : {}) })}`}
                  >
                    {form === "csv" ? "table" : form.toUpperCase()}
                  </a>
                ))}
              </p>
            )}
          </div>
        </div>
      )}
    </>
  );
}
