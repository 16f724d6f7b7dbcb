import { ToggleGroup } from "radix-ui";
import { useState } from "react";
import type { CircuitFile } from "../api/client";
import { Remove } from "../ui/Remove";
import { useKeys } from "../ui/useKeys";
import { Saved } from "./CircuitFacts";
import { Core, coreText, gaugeText } from "./Core";
import { boxName, useWork } from "./work";

type Cable = CircuitFile["cables"][number];
type Device = CircuitFile["devices"][number];

const roles = ["line", "load", "traveler", "neutral", "signal"];
const deviceTypes = ["three-way", "four-way", "single-pole", "three-way-dimmer", "lamp", "receptacle", "supply"];
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
  const isCore = (ref: string) => doc.cables.some((k) => ref.startsWith(`${k.id}.`));
  const say = (ref: string) => {
    const [owner = "", part = ""] = ref.split(".");
    return isCore(ref) ? `${owner} ${coreText(part)}` : `${owner} ${word(part)}`;
  };
  const partners = (ref: string) =>
    (joinOf(ref)?.of ?? [])
      .filter((m) => m !== ref)
      .map(say)
      .join(", ");
  useKeys({ j: join, l: lift, Escape: picked.length > 0 ? () => setPicked([]) : undefined });
  if (!box) return null;
  const cables = doc.cables.filter((k) => k.ends.includes(props.box));
  const devices = doc.devices.filter((d) => d.box === props.box);
  return (
    <section className="block box-editor" aria-label={`Box: ${box.name ?? box.id}`}>
      <div className="block-head">
        <h2>{box.name ?? box.id}</h2>
        <Remove what={`the box ${box.name ?? box.id}`} warning="Remove this box with what stands in it? Undo brings it back." onRemove={() => change({ do: "edit", edit: { op: "remove-box", box: props.box } })} />
      </div>
      <div className="fields">
        <Saved label="Name" value={box.name ?? ""} onSave={(name) => change({ do: "edit", edit: { op: "set-box", box: props.box, name } })} />
        <label className="check">
          <input type="checkbox" checked={box.opened ?? false} onChange={(e) => change({ do: "edit", edit: { op: "set-box", box: props.box, opened: e.target.checked } })} />
          Opened: I have seen its inside
        </label>
      </div>
      <ToggleGroup.Root type="multiple" value={picked} onValueChange={setPicked} className="wiring" aria-label="Cores and screws: pick what stands together">
        {cables.map((k) => (
          <CableRow key={k.id} cable={k} box={props.box} joinText={partners} />
        ))}
        {devices.map((d) => (
          <DeviceRow key={d.id} device={d} joinText={partners} />
        ))}
      </ToggleGroup.Root>
      {cables.length + devices.length === 0 && <p className="quiet">An empty box. Add the cables that you see, then the switch or lamp.</p>}
      <div className={picked.length > 0 ? "actions picking" : "actions"} role="toolbar" aria-label="With what is picked">
        <button type="button" className="button strong" disabled={picked.length < 2 || busy} onClick={join}>
          <kbd aria-hidden>J</kbd> Join {picked.length > 1 ? picked.length : ""}
        </button>
        <button type="button" className="button" disabled={lifted.length === 0 || busy} onClick={lift}>
          <kbd aria-hidden>L</kbd> Lift
        </button>
        <label className="field inline">
          <span className="sr-only">Mark the picked cores as</span>
          <select
            value=""
            disabled={picked.filter(isCore).length === 0 || busy}
            onChange={(e) => {
              change({ do: "edit", edit: { op: "mark", box: props.box, of: picked.filter(isCore), as: e.target.value === "none" ? "" : e.target.value } });
              setPicked([]);
            }}
          >
            <option value="" disabled>
              Mark as …
            </option>
            {roles.map((r) => (
              <option key={r} value={r}>
                {word(r)}
              </option>
            ))}
            <option value="none">no mark</option>
          </select>
        </label>
        <span className="quiet" role="status">
          {picked.length === 0 ? "Pick a core and its screw, or cores under one connector." : picked.map(say).join(" + ")}
        </span>
      </div>
      <AddParts box={props.box} />
    </section>
  );
}

const endClass = (base: string, end: string, pointed: string[]) => (pointed.includes(end) ? `${base} pointed` : base);

function CableRow(props: { cable: Cable; box: string; joinText: (ref: string) => string }) {
  const { circuit, change, word, pointed } = useWork();
  const { cable } = props;
  const far = cable.ends.find((b) => b !== null && b !== props.box);
  const open = cable.ends.includes(null);
  const others = circuit.document.cables.filter((k) => k.id !== cable.id && k.ends.includes(null) && !k.ends.includes(props.box));
  const boxes = circuit.document.boxes.filter((b) => b.id !== props.box);
  const report = circuit.reading.report;
  return (
    <div className="cable-row" role="group" aria-label={`Cable ${cable.id}`}>
      <div className="cable-head">
        <strong>{cable.id}</strong>{" "}
        {open ? (
          <label className="field inline">
            <span className="sr-only">Where does cable {cable.id} go?</span>
            <select
              value=""
              onChange={(e) => {
                const [what, id] = e.target.value.split(":");
                change({ do: "edit", edit: what === "cable" ? { op: "join-stubs", cable: cable.id, other: id } : { op: "set-cable", cable: cable.id, to: id } });
              }}
            >
              <option value="" disabled>
                goes on, unknown …
              </option>
              {others.map((k) => (
                <option key={k.id} value={`cable:${k.id}`}>
                  is the same cable as {k.id} in {boxName(circuit, k.ends.find((b) => b !== null) ?? "")}
                </option>
              ))}
              {boxes.map((b) => (
                <option key={b.id} value={`box:${b.id}`}>
                  goes to {b.name ?? b.id}
                </option>
              ))}
            </select>
          </label>
        ) : (
          <span>to {boxName(circuit, far ?? "")}</span>
        )}
        {cable.gauge && <span className="quiet"> {gaugeText(cable.gauge)}</span>}
        <Remove what={`cable ${cable.id}`} warning="Remove this cable? Undo brings it back." onRemove={() => change({ do: "edit", edit: { op: "remove-cable", cable: cable.id } })} />
      </div>
      <div className="ends">
        {cable.cores.map((core) => {
          const ref = `${cable.id}.${core}`;
          const role = report.roles[`${ref}@${props.box}`];
          const mark = circuit.document.marks?.find((m) => m.end === `${ref}@${props.box}`);
          return (
            <ToggleGroup.Item key={core} value={ref} data-end={ref} className={endClass("end", `${ref}@${props.box}`, pointed)}>
              <Core core={core} />
              <span className="end-role">
                {role ? word(role) : "not known"}
                {mark ? ` · marked ${word(mark.as)}` : ""}
                {report.findings.some((f) => f.severity !== "note" && f.at.includes(`${ref}@${props.box}`)) ? " · see findings" : ""}
              </span>
              <span className="end-join">{props.joinText(ref) || "capped"}</span>
            </ToggleGroup.Item>
          );
        })}
      </div>
    </div>
  );
}

function DeviceRow(props: { device: Device; joinText: (ref: string) => string }) {
  const { circuit, change, word, pointed } = useWork();
  const { device } = props;
  const edit = (fields: { watts?: number; count?: number; load?: string }) => change({ do: "edit", edit: { op: "set-device", device: device.id, ...fields } });
  return (
    <div className="cable-row" role="group" aria-label={`Device ${device.id}`}>
      <div className="cable-head">
        <strong>{device.id}</strong> <span>{device.name ?? word(device.type)}</span>
        <Remove what={`device ${device.id}`} warning="Remove this device? Undo brings it back." onRemove={() => change({ do: "edit", edit: { op: "remove-device", device: device.id } })} />
      </div>
      <div className="ends">
        {(circuit.reading.terminals[device.id] ?? []).map((t) => {
          const ref = `${device.id}.${t}`;
          return (
            <ToggleGroup.Item key={t} value={ref} data-end={ref} className={endClass("end screw", ref, pointed)}>
              <span className="core">
                <span className="screw-head" aria-hidden />
                {word(t)}
              </span>
              <span className="end-role">screw</span>
              <span className="end-join">{props.joinText(ref) || "empty"}</span>
            </ToggleGroup.Item>
          );
        })}
      </div>
      {device.type === "lamp" && (
        <div className="fields">
          <Saved label="Watts of one lamp" type="number" value={String(device.watts ?? "")} onSave={(v) => edit({ watts: Number(v) })} />
          <Saved label="Number of lamps" type="number" value={String(device.count ?? "")} onSave={(v) => edit({ count: Number(v) })} />
          <label className="field">
            <span>Kind of lamp</span>
            <select value={device.load ?? ""} onChange={(e) => edit({ load: e.target.value })}>
              <option value="" disabled>
                not known
              </option>
              {["led", "incandescent", "halogen", "fluorescent", "magnetic", "electronic"].map((l) => (
                <option key={l} value={l}>
                  {l}
                </option>
              ))}
            </select>
          </label>
        </div>
      )}
    </div>
  );
}

/** Cables and devices to add to a box, one tap each. */
function AddParts(props: { box: string }) {
  const { practice, change, word, busy } = useWork();
  return (
    <details className="parts">
      <summary>Add a cable or device that is in this box</summary>
      <h3>Cable, by what one sees of it</h3>
      <div className="row">
        {practice?.cables.map((k) => (
          <button key={k.id} type="button" className="button" disabled={busy} onClick={() => change({ do: "edit", edit: { op: "add-cable", box: props.box, cores: k.cores, gauge: k.gauge } })}>
            {k.name}
            <span className="cores">
              {k.cores.map((c) => (
                <Core key={c} core={c} />
              ))}
            </span>
          </button>
        ))}
      </div>
      <h3>Device</h3>
      <div className="row">
        {deviceTypes.map((t) => (
          <button key={t} type="button" className="button" disabled={busy} onClick={() => change({ do: "edit", edit: { op: "add-device", box: props.box, type: t } })}>
            {t === "supply" ? word("breaker") : word(t)}
          </button>
        ))}
      </div>
    </details>
  );
}
