import { markRoles } from "../../api/terms.gen";
import { ToggleGroup } from "radix-ui";
import { useState } from "react";
import { Remove } from "../../ui/Remove";
import { useKeys } from "../../ui/useKeys";
import { AddParts } from "./AddParts";
import { BoxFacts } from "./BoxFacts";
import { BoxPicture } from "./BoxPicture";
import { CableRow } from "./CableRow";
import { coreText } from "../circuit/Core";
import { DeviceRow } from "./DeviceRow";
import { Photos } from "./Photos";
import { Suggestions } from "./Suggestions";
import { useDragJoin } from "./useDragJoin";
import { isCore, useWork } from "../circuit/work";
import { Choice } from "../../ui/Choice";
import { look } from "../../ui/look";

/** One open box: its cables with their cores, its devices with their screws,
 * and what stands together. Pick two or more and join them. */
export function BoxEditor(props: { box: string }) {
  const { circuit, change, word, busy } = useWork();
  const [picked, setPicked] = useState<string[]>([]);
  const doc = circuit.document;
  const box = doc.boxes.find((b) => b.id === props.box);
  const joins = doc.joins.filter((j) => j.box === props.box);
  const joinOf = (ref: string) => joins.find((j) => j.of.includes(ref));
  const lifted = picked.filter((p) => joinOf(p));
  const capped = picked.filter((p) => isCore(doc, p) && !joinOf(p));
  const isLoose = (ref: string) => doc.loose?.includes(`${ref}@${props.box}`) ?? false;
  const loose = capped.length > 0 && capped.every(isLoose);
  const join = () => {
    if (picked.length < 2) return;
    change({ do: "edit", edit: { op: "connect", box: props.box, of: picked } });
    setPicked([]);
  };
  const lift = () => {
    if (lifted.length === 0) return;
    change({ do: "edit", edit: { op: "disconnect", box: props.box, of: lifted } });
    setPicked([]);
  };
  const names = circuit.reading.names;
  const one = doc.devices.filter((d) => d.box === props.box).length === 1; // then its screws need no more words
  const say = (ref: string) => {
    const [owner = "", part = ""] = ref.split(".");
    return isCore(doc, ref)
      ? `${coreText(part)} ${names.to[`${owner}@${props.box}`]}`
      : ((one ? names.parts[ref] : names.screws[ref]) ?? word(part));
  };
  const partners = (ref: string) =>
    isLoose(ref)
      ? "hangs loose"
      : (joinOf(ref)?.of ?? [])
          .filter((m) => m !== ref)
          .map(say)
          .join(", ");
  const together = (a: string, b: string) => {
    change({ do: "edit", edit: { op: "connect", box: props.box, of: [a, b] } });
    setPicked([]);
  };
  const onScrew = (core: string, screw: string) => {
    change({ do: "edit", edit: { op: "move", box: props.box, of: core, to: screw } });
    setPicked([]);
  };
  const drag = useDragJoin((from, to) => {
    if (isCore(doc, from) && !isCore(doc, to)) onScrew(from, to);
    else together(from, to);
  });
  useKeys({ j: join, l: lift, Escape: picked.length > 0 ? () => setPicked([]) : undefined });
  if (!box) return null;
  const cables = doc.cables.filter((k) => k.ends.includes(props.box));
  const devices = doc.devices.filter((d) => d.box === props.box);
  const screws = devices.flatMap((d) => (circuit.reading.terminals[d.id] ?? []).map((t) => `${d.id}.${t}`));
  return (
    <section className={`${look.chapter}`} aria-label={`Box: ${names.boxes[box.id]}`}>
      <div className="flex items-center justify-between">
        <h2>{names.boxes[box.id]}</h2>
        <Remove
          what={`the box ${names.boxes[box.id]}`}
          warning="Remove this box with what stands in it? Undo brings it back."
          onRemove={() => change({ do: "edit", edit: { op: "remove-box", box: props.box } })}
        />
      </div>
      <Suggestions box={props.box} />
      <BoxPicture
        box={props.box}
        picked={picked}
        drag={drag}
        pick={(ref) => setPicked((now) => (now.includes(ref) ? now.filter((x) => x !== ref) : [...now, ref]))}
      />
      <ToggleGroup.Root
        type="multiple"
        value={picked}
        onValueChange={setPicked}
        className="wiring flex flex-col gap-3"
        aria-label="Cores and screws: pick what stands together"
        {...drag}
        onKeyDown={(e) => {
          const core = e.target instanceof HTMLElement ? e.target.dataset.end : undefined;
          const screw = screws[Number(e.key) - 1];
          if (!core || !screw || !isCore(doc, core)) return;
          e.preventDefault();
          e.stopPropagation(); // a digit flips a switch elsewhere
          onScrew(core, screw);
        }}
      >
        {cables.map((k) => (
          <CableRow key={k.id} cable={k} box={props.box} joinText={partners} />
        ))}
        {devices.map((d) => (
          <DeviceRow key={d.id} device={d} joinText={partners} number={(screw) => screws.indexOf(screw) + 1} />
        ))}
      </ToggleGroup.Root>
      {cables.length + devices.length === 0 && (
        <p className="text-soft">An empty box. Add the cables that you see, then the switch or lamp.</p>
      )}
      <div
        className={`mt-3 flex flex-wrap items-center gap-2 border-t border-rule py-2.5 print:hidden ${picked.length > 0 ? "sticky bottom-0 bg-paper" : ""}`}
        role="toolbar"
        aria-label="With what is picked"
      >
        <button type="button" className={look.strong} disabled={picked.length < 2 || busy} onClick={join}>
          <kbd aria-hidden>J</kbd> Join {picked.length > 1 ? picked.length : ""}
        </button>
        <button type="button" className={look.button} disabled={lifted.length === 0 || busy} onClick={lift}>
          <kbd aria-hidden>L</kbd> Lift
        </button>
        <button
          type="button"
          className={look.button}
          disabled={capped.length === 0 || busy}
          onClick={() => {
            change({ do: "edit", edit: { op: "loose", box: props.box, of: capped, ...(loose ? { not: true } : {}) } });
            setPicked([]);
          }}
        >
          {loose ? "Capped after all" : "Hangs loose"}
        </button>
        <Choice
          quiet
          label="Mark the picked cores as"
          hint="Mark as …"
          value=""
          disabled={picked.filter((ref) => isCore(doc, ref)).length === 0 || busy}
          options={[...markRoles.map((r): [string, string] => [r, word(r)]), ["none", "no mark"]]}
          set={(as) => {
            const of = picked.filter((ref) => isCore(doc, ref));
            change({ do: "edit", edit: { op: "mark", box: props.box, of, as: as === "none" ? "" : as } });
            setPicked([]);
          }}
        />
        <span className="text-soft" role="status">
          {picked.length === 0
            ? "Drag a core onto its screw or neighbour; or pick what stands together. On a core, the keys 1 to 9 are the screws."
            : picked.map(say).join(" + ")}
        </span>
      </div>
      <AddParts box={props.box} />
      <BoxFacts box={box} />
      <Photos box={props.box} />
    </section>
  );
}
