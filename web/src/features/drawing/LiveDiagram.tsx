import { Lightbulb, LightbulbOff, ZoomIn, ZoomOut } from "lucide-react";
import { useCallback, useEffect, useMemo, useRef, useState, type ReactNode } from "react";
import type { Circuit, CircuitFile, Schemas, Version } from "../../api/client";
import { usePicture, usePress } from "../../api/queries";
import { Current } from "../../ui/Current";
import { Notice } from "../../ui/Notice";
import { Share } from "../../ui/Share";
import { useKeys } from "../../ui/useKeys";
import { upper } from "../survey/CircuitFacts";
import { Board } from "./Board";
import { Flags } from "./Flags";
import { InWords, conductorText } from "./InWords";
import { Fitted } from "./Picture";
import { boxName, isCore, namesIn, useWork } from "../circuit/work";
import { Choice } from "../../ui/Choice";
import { look } from "../../ui/look";
import { Tool } from "../../ui/Tool";

type Live = Schemas["Live"];
type Under = Required<Schemas["Conditions"]>;

const asRecorded: Under = { lifted: [], lampsOut: [], breakersOff: [] };

/** The drawing of the circuit, switched on: press a switch and see what is live. */
export function LiveDiagram(props: {
  of: Version;
  heading: string;
  keys?: boolean;
  compare?: boolean;
  /** It fills its place on the bench. */
  board?: boolean;
  /** Shown as a whole at first, however small. */
  whole?: boolean;
  /** The circuit as found can be drawn over it, as far as one likes. */
  before?: boolean;
  /** Ends at which a test is made. */
  probes?: string[] | undefined;
  /** Findings are marked on it. */
  flagged?: boolean;
  /** Screws whose wires are off for it. */
  lifted?: string[] | undefined;
}) {
  const { circuit, box, point, pointed, word } = useWork();
  const drawing = usePicture(circuit.id, circuit.revision, { of: props.of, compare: props.compare ?? false });
  const before = usePicture(circuit.id, circuit.revision, { of: "found", compare: true }, props.before ?? false);
  const [share, setShare] = useState(0);
  const press = usePress(circuit.id);
  const [live, setLive] = useState<Live>();
  const [large, setLarge] = useState(false);
  const frame = useRef<HTMLDivElement>(null);
  const { mutate } = press;
  const state = useRef<Record<string, number>>({});
  const [under, setUnder] = useState<Under>(asRecorded);
  const [seen, setSeen] = useState<ReadonlySet<string>>(new Set());
  const seenNow = [...seen].filter((s) => s.startsWith(`${circuit.revision} `)).length;
  const apply = (now: Under) => {
    setUnder(now);
    ask(undefined, now);
  };

  const document = props.of === "planned" ? circuit.choice?.document : circuit.document;
  const report = props.of === "planned" ? circuit.choice?.controls : circuit.reading.report.controls;
  const controls = report ?? [];
  const names = (props.of === "planned" ? circuit.choice?.names : undefined) ?? circuit.reading.names;

  const ask = (control?: string, now: Under = under) =>
    mutate(
      { of: props.of, state: state.current, press: control, under: now },
      {
        onSuccess: (next) => {
          state.current = next.state;
          setLive(next);
          setSeen((before) => new Set(before).add(`${circuit.revision} ${JSON.stringify(next.state)}`));
        },
        onError: () => {
          state.current = {}; // a switch of this state is gone: begin as recorded
        },
      },
    );

  const asked = useRef("");
  useEffect(() => {
    // Another revision may have other switches; keep those that are still there.
    const key = `${circuit.revision} ${props.of}`;
    if (asked.current === key) return;
    asked.current = key;
    const known = new Set((document?.devices ?? []).map((d) => d.id));
    const kept = Object.entries(state.current).filter(([k]) => known.has(k.split(".")[0] ?? ""));
    state.current = Object.fromEntries(kept);
    ask();
  });

  const picture = drawing.data;
  const off = useMemo(() => endsUnder(document, props.lifted ?? []), [document, props.lifted]);

  const probed = useMemo(() => props.probes && boxesOf(document, props.probes), [document, props.probes]);

  useEffect(() => {
    const room = frame.current?.querySelector<SVGElement>(`[data-box="${box ?? ""}"]`);
    const pane = frame.current;
    if (!room || !pane) return;
    const at = room.getBoundingClientRect();
    const view = pane.getBoundingClientRect();
    if (at.left < view.left || at.right > view.right) {
      pane.scrollLeft += at.left + at.width / 2 - view.left - view.width / 2;
    }
  }, [picture, box, large]);

  const [follows, setFollows] = useState<Followed>();
  const followed = follows?.of === picture ? follows?.conductor : undefined; // another drawing numbers its conductors anew

  const numbered = Object.fromEntries(controls.slice(0, 9).map((c, i) => [String(i + 1), () => ask(c.device)]));
  useKeys(props.keys === false ? {} : numbered);

  const asking = useRef(ask);
  useEffect(() => {
    asking.current = ask;
  });
  const pick = useCallback(
    (end: string, conductor: number | undefined) => {
      point([end]);
      setFollows((now) => {
        if (!picture || conductor === undefined || (now?.of === picture && now.conductor === conductor)) return undefined;
        return { of: picture, conductor, text: `One conductor: ${conductorText(picture, conductor, names)}.` };
      });
    },
    [picture, point, names],
  );
  const acts = useMemo(() => ({ press: (device: string) => asking.current(device), pick }), [pick]);
  const nameOf = (id: string) => {
    const device = document?.devices.find((d) => d.id === id);
    return device ? boxName(circuit, device.box) : id;
  };
  const verb = (id: string) => (document?.devices.find((d) => d.id === id)?.model === "push-button" ? "Press" : "Flip");
  const below = props.board && props.before; // where the slider takes the room beside the switches
  const lamps = (
    <p className="lamps flex min-h-7 min-w-44 grow flex-wrap items-center gap-x-4 gap-y-1" role="status">
      {live?.tripped && "The breaker has tripped. "}
      {!live &&
        lampsOf(circuit, document).map((name) => (
          <span key={name} aria-hidden className="invisible">
            {name} dark, 230 V
          </span>
        ))}
      {live?.lamps.map((l) => (
        <span key={l.device} className={`inline-flex items-center gap-1.5 ${l.lit ? "font-bold" : ""}`}>
          {l.lit ? <Lightbulb aria-hidden size={18} /> : <LightbulbOff aria-hidden size={18} />}
          {l.name} {l.lit ? "lit" : "dark"}, {Math.round(l.volts)} V
        </span>
      ))}
      {live && live.asleep.length > 0 && ` Without power: ${live.asleep.join(", ")}.`}
    </p>
  );
  const sample = "ml-2 inline-block border-ink";
  const lines = (
    <>
      <span className={`${sample} w-8 border-t-6 border-dotted`} aria-hidden /> live
      <span className={`${sample} w-6 border-t-4 border-dotted`} aria-hidden /> live through a lamp
      <span className={`${sample} w-8 border-t-2 border-dashed border-soft`} aria-hidden /> floating or dead
      <span className={`${sample} w-8 border-t-4`} aria-hidden /> {word("neutral")}, {word("ground")}
    </>
  );
  return (
    <section
      className={props.board ? "live flex min-h-0 min-w-0 flex-col border-b border-rule" : "live border-b border-rule"}
      aria-label={props.heading}
    >
      <div className={`flex flex-wrap items-center gap-x-4 gap-y-1 ${props.board ? "py-1 pl-4" : `py-2.5 ${look.gutter}`}`}>
        <h2>{share >= 50 ? "As found" : props.heading}</h2>
        {props.before && (
          <Share label="How much of the circuit as found is drawn over it" from="after" to="before" share={share} set={setShare} />
        )}
        <div className="flex flex-wrap gap-2 print:hidden" role="group" aria-label="Switches">
          {controls.map((c, i) => (
            <button key={c.device} type="button" className={look.button} onClick={() => ask(c.device)}>
              {i < 9 && props.keys !== false && <kbd aria-hidden>{i + 1}</kbd>} {verb(c.device)} {nameOf(c.device)}
            </button>
          ))}
        </div>
        {!below && lamps}
        {!props.board && (
          <Tool icon={large ? ZoomOut : ZoomIn} label="Enlarge the drawing" aria-pressed={large} onClick={() => setLarge(!large)} />
        )}
      </div>
      <Notice error={drawing.error} />
      {props.board ? (
        !picture ? (
          <div className="min-h-0 flex-1 bg-sheet" />
        ) : (
          <Current stale={drawing.isPlaceholderData} what="drawn anew" fill>
            <Board
              picture={picture}
              label={props.heading}
              seen={{ live, pointed: props.probes ?? pointed, followed, box, lifted: off }}
              acts={acts}
              over={before.data && { picture: before.data, share }}
              bring={probed}
              whole={props.whole}
              legend={<p className="flex flex-wrap items-center gap-x-2">{lines}</p>}
              flags={props.flagged && <Flags picture={picture} findings={circuit.reading.report.findings} show={point} />}
            />
          </Current>
        )
      ) : (
        <div ref={frame} className={`${look.sheet} min-h-[46vh]`} role="region" aria-label={`${props.heading}: drawing`} tabIndex={0}>
          {picture && (
            <Current stale={drawing.isPlaceholderData} what="drawn anew">
              <Fitted picture={picture} large={large} seen={{ live, pointed, followed, box }} acts={acts} />
            </Current>
          )}
        </div>
      )}
      {followed !== undefined && (
        <p className="flex flex-wrap items-center gap-x-4 gap-y-2 border-t border-rule px-6 py-2 max-sm:px-3.5" role="status">
          <span>{follows?.text}</span>
          <button type="button" className={look.button} onClick={() => setFollows(undefined)}>
            Show all again
          </button>
        </p>
      )}
      {!props.board && (
        <p className={`flex flex-wrap items-center gap-x-2 gap-y-1 py-1 text-sm text-soft print:hidden ${look.gutter}`}>{lines}</p>
      )}
      {document && (
        <Doing
          under={under}
          live={live}
          document={document}
          set={apply}
          seen={seenNow}
          states={props.of === "found" ? circuit.reading.report.states : undefined}
          board={props.board ?? false}
          lamps={below && lamps}
          words={<InWords picture={picture} live={live} names={names} />}
        />
      )}
    </section>
  );
}

/** What a person does for a while beside flipping switches: breaker, lamps, a
 * lifted wire. Nothing of it changes the record. */
function Doing(props: {
  under: Under;
  live: Live | undefined;
  document: CircuitFile;
  set: (now: Under) => void;
  seen: number;
  states?: number;
  board: boolean;
  lamps: ReactNode;
  words: ReactNode;
}) {
  const { circuit, box, word } = useWork();
  const { under, document, set } = props;
  const toggle = (list: string[], id: string) => (list.includes(id) ? list.filter((x) => x !== id) : [...list, id]);
  const breakers = document.devices
    .filter((d) => d.type === "supply")
    .map((d) => ({ id: d.id, text: circuit.reading.breakers[d.id] ?? word("breaker") }));
  const names = namesIn(circuit, document);
  // Until the circuit is solved lamps are called as the record has them, so that nothing moves when it is.
  const lamps =
    props.live?.lamps ?? document.devices.filter((d) => d.type === "lamp").map((d) => ({ device: d.id, name: names.short[d.id] ?? "" }));
  const ends = document.joins.filter((j) => j.box === box && j.of.length > 1).flatMap((j) => j.of);
  const say = (end: string) => upper(names.ends[end] ?? "");
  return (
    <div
      className={`flex flex-wrap items-center gap-2 *:font-normal print:hidden ${props.board ? "px-4 py-1.5" : `pb-2.5 ${look.gutter}`}`}
      role="group"
      aria-label="Try, without changing the record"
    >
      {breakers.map((b) => (
        <button
          key={b.id}
          type="button"
          className={look.pressed}
          aria-pressed={under.breakersOff.includes(b.id)}
          onClick={() => set({ ...under, breakersOff: toggle(under.breakersOff, b.id) })}
        >
          {under.breakersOff.includes(b.id) ? `${upper(b.text)} is off` : `Turn ${b.text} off`}
        </button>
      ))}
      {lamps.map((l) => (
        <button
          key={l.device}
          type="button"
          className={look.pressed}
          aria-pressed={under.lampsOut.includes(l.device)}
          onClick={() => set({ ...under, lampsOut: toggle(under.lampsOut, l.device) })}
        >
          {l.name} {under.lampsOut.includes(l.device) ? "is out" : "out of its socket"}
        </button>
      ))}
      {under.lifted.map((end) => (
        <button
          key={end}
          type="button"
          className={look.pressed}
          aria-pressed
          onClick={() => set({ ...under, lifted: toggle(under.lifted, end) })}
        >
          {say(end)} is lifted
        </button>
      ))}
      {ends.length > 0 && (
        <Choice
          quiet
          label="Lift a wire of this box for a while"
          hint="Lift a wire …"
          value=""
          options={ends
            .map((ref) => (isCore(document, ref) ? `${ref}@${box}` : ref))
            .filter((end) => !under.lifted.includes(end))
            .map((end) => [end, say(end)])}
          set={(end) => set({ ...under, lifted: [...under.lifted, end] })}
        />
      )}
      {props.words}
      {props.lamps}
      {props.states !== undefined && (
        <span className="text-soft">
          {Math.min(props.seen, props.states)} of {props.states} states seen
        </span>
      )}
    </div>
  );
}

/** What the lamps are called, as far as the record says: their room is kept until they are known to be lit or dark. */
const lampsOf = (circuit: Circuit, document: CircuitFile | undefined) =>
  (document?.devices ?? []).filter((d) => d.type === "lamp").map((d) => d.name ?? boxName(circuit, d.box));

/** The boxes in which some ends are, each once. */
const boxesOf = (document: CircuitFile | undefined, ends: string[]) => [
  ...new Set(ends.flatMap((end) => end.split("@")[1] ?? document?.devices.find((d) => end.startsWith(`${d.id}.`))?.box ?? [])),
];

/** The core ends that stand under some screws. */
function endsUnder(document: CircuitFile | undefined, screws: string[]) {
  if (!document || screws.length === 0) return undefined;
  return document.joins
    .filter((j) => j.of.some((ref) => screws.includes(ref)))
    .flatMap((j) => j.of.filter((ref) => isCore(document, ref)).map((ref) => `${ref}@${j.box}`));
}

/** A conductor that is followed through one drawing. */
type Followed = { of: Schemas["Picture"]; conductor: number; text: string };
