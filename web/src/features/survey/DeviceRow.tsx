import { ToggleGroup } from "radix-ui";
import type { CircuitFile, Edit } from "../../api/client";
import { Remove } from "../../ui/Remove";
import { Measured } from "./CircuitFacts";
import { endClass, useWork } from "../circuit/work";

type Device = CircuitFile["devices"][number];

/** One device of a box with its screws; numbers count the screws of the box. */
export function DeviceRow(props: { device: Device; joinText: (ref: string) => string; number: (screw: string) => number }) {
  const { circuit, change, word, pointed, practice } = useWork();
  const switches = practice?.switches ?? [];
  const { device } = props;
  const edit = (fields: Omit<Edit, "op">) => change({ do: "edit", edit: { op: "set-device", device: device.id, ...fields } });
  return (
    <div className="cable-row" role="group" aria-label={`Device ${device.id}`}>
      <div className="cable-head">
        <strong>{device.id}</strong> <span>{device.name ?? word(device.type)}</span>
        <Remove
          what={`device ${device.id}`}
          warning="Remove this device? Undo brings it back."
          onRemove={() => change({ do: "edit", edit: { op: "remove-device", device: device.id } })}
        />
      </div>
      <div className="ends">
        {(circuit.reading.terminals[device.id] ?? []).map((t) => {
          const ref = `${device.id}.${t}`;
          return (
            <ToggleGroup.Item key={t} value={ref} data-end={ref} className={endClass("end screw", ref, pointed)}>
              <span className="core">
                <span className="screw-head" aria-hidden />
                {word(t)}
                {props.number(ref) < 10 && (
                  <kbd className="screw-key" aria-hidden>
                    {props.number(ref)}
                  </kbd>
                )}
              </span>
              <span className="end-role">screw</span>
              <span className="end-join">{props.joinText(ref) || "empty"}</span>
            </ToggleGroup.Item>
          );
        })}
      </div>
      {switches.includes(device.type) && (
        <div className="fields">
          <label className="field">
            <span>Kind of switch</span>
            <select value={device.type} onChange={(e) => edit({ type: e.target.value })}>
              {switches.map((t) => (
                <option key={t} value={t}>
                  {word(t)}
                </option>
              ))}
            </select>
          </label>
          <Measured label="Depth behind the plate, mm" value={device.depthMm} onSave={(depthMm) => edit({ depthMm })} />
          <label className="check">
            <input type="checkbox" checked={device.unmarked ?? false} onChange={(e) => edit({ unmarked: e.target.checked })} />
            Its screws cannot be told apart
          </label>
        </div>
      )}
      {device.type === "lamp" && (
        <div className="fields">
          <Measured label="Watts of one lamp" value={device.watts} onSave={(watts) => edit({ watts })} />
          <Measured label="Number of lamps" value={device.count} onSave={(count) => edit({ count })} />
          <label className="field">
            <span>Kind of lamp</span>
            <select value={device.load ?? ""} onChange={(e) => edit({ load: e.target.value })}>
              <option value="" disabled>
                not known
              </option>
              {practice?.loads.map((l) => (
                <option key={l} value={l}>
                  {l}
                </option>
              ))}
            </select>
          </label>
          <label className="field">
            <span>May be dimmed</span>
            <select
              value={device.dimmable === undefined ? "" : String(device.dimmable)}
              onChange={(e) => edit({ dimmable: e.target.value === "true" })}
            >
              <option value="" disabled>
                not known
              </option>
              <option value="true">yes</option>
              <option value="false">no</option>
            </select>
          </label>
        </div>
      )}
    </div>
  );
}
