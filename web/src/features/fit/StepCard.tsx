import { Camera } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import type { Schemas } from "../../api/client";
import { useAddPhoto, type Entry } from "../../api/fitting";
import { Choice } from "../../ui/Choice";
import { Fold } from "../../ui/Fold";
import { look } from "../../ui/look";
import { Notice } from "../../ui/Notice";
import { useArriving } from "../../ui/useArriving";
import { useKeys } from "../../ui/useKeys";
import { useWork } from "../circuit/work";
import { Facts } from "../wire/Facts";
import { Asks } from "../circuit/Asks";
import { Presses } from "./Presses";
import { StepPictures } from "./StepPictures";

/** One step: what to do, large; Done, and what else may be said of it. */
export function StepCard(props: {
  step: Schemas["Step"];
  steps: Schemas["Step"][];
  title: string;
  of: number;
  state: Schemas["StepState"] | undefined;
  next: number;
  last: number;
  busy: boolean;
  pictured: boolean;
  proves: boolean;
  add: (entry: Entry) => void;
  pick: (step: number) => void;
}) {
  const { step, state } = props;
  const [note, setNote] = useState("");
  const [value, setValue] = useState("");
  const [photo, setPhoto] = useState<string>();
  const card = useRef<HTMLElement>(null);
  useEffect(() => card.current?.focus({ preventScroll: true }), []);
  const arriving = useArriving();
  const busy = props.busy || arriving;
  const open = state?.status === "open";
  const asks = step.asks ?? [];
  const entry = (steps: number[], asked?: string[]): Entry => ({
    kind: "done",
    steps,
    ...(asked ? { asked } : {}),
    ...(note ? { note } : {}),
    ...(value ? { value } : {}),
    ...(photo ? { photo } : {}),
  });
  const done = () => props.add(entry([step.number]));
  const barred = state?.barred;
  const ready = open && asks.length === 0 && !barred && !busy;
  const alike = state?.alike ?? [];
  const stay = state?.stay ?? [];
  const rest = props.steps.filter((s) => stay.includes(s.number) && s.number !== step.number);
  const all = () => props.add(entry(stay));
  useKeys({
    d: ready ? done : undefined,
    a: ready && rest.length > 0 ? all : undefined,
    ".": props.step.number < props.of ? () => props.pick(step.number + 1) : undefined,
    ",": props.step.number > 1 ? () => props.pick(step.number - 1) : undefined,
  });
  return (
    <section
      ref={card}
      tabIndex={-1}
      data-arriving={arriving || undefined}
      className="step-now border-[3px] border-double border-ink bg-sheet p-4 outline-none"
      aria-label="The step"
    >
      <h2 className="text-base">
        Step {step.number} of {props.of} · {props.title}
      </h2>
      <p role="status" className="py-2 text-xl leading-snug font-semibold wrap-anywhere">
        {step.text}
      </p>
      {open && props.proves && step.proves && <Presses busy={busy} add={props.add} />}
      {open && barred && <p className="border-l-2 border-dotted border-soft pb-2 pl-3">{barred}</p>}
      {open && asks.length > 0 && (
        <Asks asks={asks} busy={busy} label="Confirmed" done={(asked) => props.add(entry([step.number], asked))} />
      )}
      {open && !barred && rest.length > 0 && (
        <ol className="mb-3 border-l-[3px] border-ink pl-3" aria-label="And at this stay">
          {rest.map((s) => (
            <li key={s.number} className="border-b border-rule py-1.5 last:border-b-0">
              <span className="mr-2 font-[650]">{s.number}</span>
              {s.text}
            </li>
          ))}
        </ol>
      )}
      {open && asks.length === 0 && (
        <div className="sticky bottom-14 z-10 grid gap-2 bg-sheet py-2 sm:bottom-0">
          {rest.length > 0 && (
            <button type="button" className={`${look.strong} min-h-14 justify-center text-lg`} disabled={!ready} onClick={all}>
              <kbd aria-hidden>A</kbd> All {rest.length + 1} done
            </button>
          )}
          <div className="grid grid-cols-[auto_1fr] gap-2">
            <button type="button" className={look.button} disabled={step.number === 1} onClick={() => props.pick(step.number - 1)}>
              Back
            </button>
            <button
              type="button"
              className={`${rest.length > 0 ? look.button : `${look.strong} text-lg`} min-h-14 justify-center`}
              disabled={!ready}
              onClick={done}
            >
              <kbd aria-hidden>D</kbd> {rest.length > 0 ? "Done, this line" : "Done"}
            </button>
          </div>
        </div>
      )}
      {open && alike.length > 1 && (
        <button type="button" className={`${look.button} mt-2`} disabled={busy} onClick={() => props.add(entry(alike))}>
          Done, with all {alike.length} that are alike: {alike.join(", ")}
        </button>
      )}
      {!open && (
        <div className="grid gap-2">
          <p className="border-l-2 border-dotted border-soft pl-3">
            {state?.status === "locked"
              ? state.why
              : state?.status === "done"
                ? "Done."
                : state?.status === "skipped"
                  ? "Left out."
                  : "Not as drawn."}
          </p>
          {props.next > 0 && (
            <button type="button" className={`${look.button} justify-self-start`} onClick={() => props.pick(props.next)}>
              To step {props.next}, which is next
            </button>
          )}
        </div>
      )}
      {(step.conductors ?? []).length > 0 && open && <OneIsLive ends={step.conductors ?? []} busy={busy} add={props.add} />}
      <Facts step={step} />
      {props.pictured && step.box && <StepPictures step={step} last={props.last} stacked />}
      {open && (
        <Fold title="Reading, note, photograph; left out; not as drawn">
          <div className={look.fields}>
            <label className={look.field}>
              <span>Reading</span>
              <input value={value} maxLength={200} onChange={(e) => setValue(e.target.value)} />
            </label>
            <label className={look.field}>
              <span>Note, reason, or what is there</span>
              <input value={note} maxLength={2000} onChange={(e) => setNote(e.target.value)} />
            </label>
          </div>
          <div className={look.row}>
            {step.box && <Photograph box={step.box} kept={photo} keep={setPhoto} />}
            <button
              type="button"
              className={look.button}
              disabled={busy || note.trim() === "" || asks.length > 0}
              onClick={() => props.add({ kind: "skip", steps: [step.number], reason: note })}
            >
              Leave it out
            </button>
            <button
              type="button"
              className={look.button}
              disabled={busy || note.trim() === ""}
              onClick={() => props.add({ kind: "differs", steps: [step.number], note })}
            >
              Not as drawn
            </button>
          </div>
        </Fold>
      )}
    </section>
  );
}

/** Of the conductors of a box that was to be dead, one is live. */
function OneIsLive(props: { ends: string[]; busy: boolean; add: (entry: Entry) => void }) {
  const [end, setEnd] = useState("");
  const { circuit } = useWork();
  return (
    <div className={`${look.fields} border-t border-rule pt-2`}>
      <Choice
        above
        label="One is live"
        hint="choose which …"
        value={end}
        options={props.ends.map((e) => [e, circuit.reading.names.ends[e] ?? circuit.choice?.names.ends[e] ?? e])}
        set={setEnd}
      />
      <button type="button" className={look.button} disabled={props.busy || end === ""} onClick={() => props.add({ kind: "live", end })}>
        One is live: stop
      </button>
    </div>
  );
}

/** A photograph that goes with the entry. */
function Photograph(props: { box: string; kept: string | undefined; keep: (id: string) => void }) {
  const { circuit } = useWork();
  const add = useAddPhoto(circuit.id);
  return (
    <>
      <label className={look.button}>
        <Camera aria-hidden size={18} /> {add.isPending ? "Keeping …" : props.kept ? "Photograph kept" : "Photograph"}
        <input
          type="file"
          className="sr-only"
          accept="image/jpeg,image/png,image/webp"
          onChange={(e) => {
            const file = e.target.files?.[0];
            if (file) add.mutate({ box: props.box, file }, { onSuccess: (p) => props.keep(p.id) });
          }}
        />
      </label>
      <Notice error={add.error} />
    </>
  );
}
