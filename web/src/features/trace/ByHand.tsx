import { useState } from "react";
import type { Schemas } from "../../api/client";
import { usePreview } from "../../api/queries";
import { instruments, powers, probes } from "../../api/terms.gen";
import { Notice } from "../../ui/Notice";
import { TestCard } from "./TestCard";
import { useWork } from "../circuit/work";
import { Fold } from "../../ui/Fold";
import { Choice } from "../../ui/Choice";
import { Tick } from "../../ui/Tick";
import { look } from "../../ui/look";

type Test = Schemas["Observation"];

/** How the power must be for an instrument that tells something one way only. */
const usual: Partial<Record<Test["instrument"], Test["power"]>> = powers;

/** Any test in any order, chosen by hand, with what it would tell before it is made. */
export function ByHand() {
  const { circuit, word, practice } = useWork();
  const doc = circuit.document;
  const [test, setTest] = useState<Test>({ power: "off", instrument: "continuity" });
  const [at, setAt] = useState(["", ""]);
  const needed = probes[test.instrument];
  const whole: Test = {
    ...test,
    light: test.instrument === "lamp" ? test.light : undefined,
    at: needed === 0 ? undefined : at.slice(0, needed),
  };
  const lamps = doc.devices.filter((d) => d.type === "lamp");
  const several = test.instrument === "lamp" && lamps.length > 1;
  const ready = at.slice(0, needed).every((e) => e !== "") && (!several || test.light !== undefined);
  const [asked, setAsked] = useState<Test>();
  const held = usePreview(circuit.id, circuit.revision, asked);
  const set = (next: Partial<Test>) => {
    setAsked(undefined);
    setTest((now) => ({ ...now, ...next }));
  };
  const toggle = (key: "lifted" | "flipped" | "lampsOut", id: string) =>
    set({ [key]: test[key]?.includes(id) ? test[key].filter((x) => x !== id) : [...(test[key] ?? []), id] });
  const opened = doc.boxes.filter((b) => b.opened || doc.joins.some((j) => j.box === b.id));
  const said = (end: string) => circuit.reading.names.ends[end] ?? "";
  const ends = opened.flatMap((b) =>
    doc.cables
      .filter((k) => k.ends.includes(b.id))
      .flatMap((k) => k.cores.map((c) => ({ end: `${k.id}.${c}@${b.id}`, text: said(`${k.id}.${c}@${b.id}`) }))),
  );
  const sockets = lamps.flatMap((d) => [
    { end: `${d.id}.l`, text: said(`${d.id}.l`) },
    { end: `${d.id}.n`, text: said(`${d.id}.n`) },
  ]);
  const switches = doc.devices.filter((d) => practice?.switches.includes(d.type) && opened.some((b) => b.id === d.box));
  const screws = switches.flatMap((d) =>
    (circuit.reading.terminals[d.id] ?? []).filter((t) => t !== "ground").map((t) => ({ ref: `${d.id}.${t}`, text: said(`${d.id}.${t}`) })),
  );
  return (
    <Fold section className={look.chapter} title="Another test, chosen by hand">
      <div className={look.fields}>
        <Choice
          above
          label={word("breaker")}
          value={test.power}
          disabled={usual[test.instrument] === "off"}
          options={[
            ["off", "off"],
            ["on", "on"],
          ]}
          set={(power) => set({ power: power === "on" ? "on" : "off" })}
        />
        <Choice
          above
          label="Instrument"
          value={test.instrument}
          options={instruments.map(([id, text]) => [id, text])}
          set={(picked) => {
            const instrument = instruments.find(([id]) => id === picked)?.[0];
            if (instrument) set({ instrument, power: usual[instrument] ?? test.power });
          }}
        />
      </div>
      {several && (
        <Choice
          above
          label="Which light"
          value={test.light ?? ""}
          options={lamps.map((d) => [d.id, circuit.reading.names.short[d.id] ?? ""])}
          set={(light) => set({ light })}
        />
      )}
      {[0, 1].slice(0, needed).map((i) => (
        <Choice
          key={i}
          above
          label={needed === 1 ? "At" : i === 0 ? "Between" : "and"}
          value={at[i] ?? ""}
          options={[...ends, ...(test.instrument === "continuity" ? sockets : [])].map((e) => [e.end, e.text])}
          set={(end) => {
            setAsked(undefined);
            setAt((now) => now.map((x, n) => (n === i ? end : x)));
          }}
        />
      ))}
      <Choices
        legend="Lifted and capped"
        all={screws.map((s) => [s.ref, s.text])}
        on={test.lifted ?? []}
        toggle={(id) => toggle("lifted", id)}
      />
      <Choices
        legend="Flipped from how it was found"
        all={switches.map((d) => [d.id, circuit.reading.names.devices[d.id] ?? word(d.type)])}
        on={test.flipped ?? []}
        toggle={(id) => toggle("flipped", id)}
      />
      <Choices
        legend="Out of its socket"
        all={lamps.map((d) => [d.id, circuit.reading.names.short[d.id] ?? ""])}
        on={test.lampsOut ?? []}
        toggle={(id) => toggle("lampsOut", id)}
      />
      <Ties ends={ends} on={test.tied ?? []} set={(tied) => set({ tied: tied.length > 0 ? tied : undefined })} />
      <button type="button" className={`${look.button} mt-2`} disabled={!ready || held.isFetching} onClick={() => setAsked(whole)}>
        What would it tell?
      </button>
      <Notice error={held.error} />
      {asked && held.data && (
        <TestCard
          next={held.data}
          waiting={held.isPlaceholderData}
          of={Math.max(...held.data.outcomes.map((o) => o.worlds))}
          heading="Test by hand"
        />
      )}
    </Fold>
  );
}

/** Conductors held together for the test: each lot in one connector. */
function Ties(props: { ends: { end: string; text: string }[]; on: string[][]; set: (tied: string[][]) => void }) {
  const { word } = useWork();
  const [lot, setLot] = useState<string[]>([]);
  const taken = props.on.flat();
  return (
    <Fold
      className="choices mt-2.5 grid gap-1.5"
      title={`Tied together for the test${props.on.length > 0 ? `: ${props.on.map((g) => g.join(" + ")).join("; ")}` : ""}`}
    >
      <Choices
        legend={`One lot, in one ${word("connector")}`}
        all={props.ends.filter((e) => !taken.includes(e.end)).map((e) => [e.end, e.text])}
        on={lot}
        toggle={(id) => setLot((now) => (now.includes(id) ? now.filter((x) => x !== id) : [...now, id]))}
      />
      <button
        type="button"
        className={look.small}
        disabled={lot.length < 2}
        onClick={() => {
          props.set([...props.on, lot]);
          setLot([]);
        }}
      >
        Tie these
      </button>
      {props.on.length > 0 && (
        <button type="button" className={look.small} onClick={() => props.set([])}>
          Untie all
        </button>
      )}
    </Fold>
  );
}

function Choices(props: { legend: string; all: [string, string][]; on: string[]; toggle: (id: string) => void }) {
  if (props.all.length === 0) return null;
  return (
    <fieldset className="mt-2.5 grid gap-1.5">
      <legend className="text-soft">{props.legend}</legend>
      <div className="flex flex-wrap gap-x-5">
        {props.all.map(([id, text]) => (
          <Tick key={id} checked={props.on.includes(id)} set={() => props.toggle(id)}>
            {text}
          </Tick>
        ))}
      </div>
    </fieldset>
  );
}
