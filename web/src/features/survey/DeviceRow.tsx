import { ToggleGroup } from "radix-ui";
import type { CircuitFile, Edit } from "../../api/client";
import { Remove } from "../../ui/Remove";
import { Measured, Saved } from "./CircuitFacts";
import { useMeasures } from "../../ui/settings";
import { useWork } from "../circuit/work";
import { endLook } from "./endLook";
import { Choice } from "../../ui/Choice";
import { Tick } from "../../ui/Tick";
import { look } from "../../ui/look";

type Device = CircuitFile["devices"][number];

/** One device of a box with its screws; numbers count the screws of the box. */
export function DeviceRow(props: { device: Device; joinText: (ref: string) => string; number: (screw: string) => number }) {
  const { circuit, change, word, pointed, practice } = useWork();
  const switches = practice?.switches ?? [];
  const { length } = useMeasures(false);
  const { device } = props;
  const kind = device.type === "smart" ? (device.model ?? "") : device.type;
  const name = circuit.reading.names.here[device.id] ?? word(device.type);
  const edit = (fields: Omit<Edit, "op">) => change({ do: "edit", edit: { op: "set-device", device: device.id, ...fields } });
  return (
    <div className="border-l-4 border-ink pl-3" role="group" aria-label={name}>
      <div className="flex flex-wrap items-center gap-2 *:last:ml-auto">
        <strong>{name}</strong>
        <Remove
          what={name}
          warning="Remove this device? Undo brings it back."
          onRemove={() => change({ do: "edit", edit: { op: "remove-device", device: device.id } })}
        />
      </div>
      <div className="grid grid-cols-[repeat(auto-fill,minmax(7.4rem,1fr))] gap-1.5">
        {(circuit.reading.terminals[device.id] ?? []).map((t) => {
          const ref = `${device.id}.${t}`;
          return (
            <ToggleGroup.Item key={t} value={ref} data-end={ref} className={endLook(ref, pointed, "screw")}>
              <span className="core inline-flex items-center gap-1.5 font-[650]">
                <span
                  className="size-3.5 shrink-0 rounded-full border-[1.5px] border-ink bg-[linear-gradient(var(--ink),var(--ink))] bg-[length:60%_1.5px] bg-center bg-no-repeat"
                  aria-hidden
                />
                {circuit.reading.names.parts[ref] ?? word(t)}
                {props.number(ref) < 10 && (
                  <kbd className="ml-auto" aria-hidden>
                    {props.number(ref)}
                  </kbd>
                )}
              </span>
              <span>screw</span>
              <span className="end-join text-[0.82rem] text-soft">{props.joinText(ref) || "empty"}</span>
            </ToggleGroup.Item>
          );
        })}
      </div>
      {(switches.includes(kind) || device.type === "smart") && (
        <div className={look.fields}>
          <Saved
            label="What people call it"
            value={device.name ?? ""}
            onSave={(name) => edit({ name })}
            onClear={() => edit({ clear: ["name"] })}
          />
          {switches.includes(kind) && (
            <Choice above label="Kind of switch" value={kind} options={switches.map((t) => [t, word(t)])} set={(type) => edit({ type })} />
          )}
          <Measured
            label={`Depth behind the plate, ${length.unit}`}
            value={length.shown(device.depthMm)}
            onSave={(v) => edit({ depthMm: length.taken(v) })}
          />
          <Tick checked={device.unmarked ?? false} set={(unmarked) => edit({ unmarked })}>
            Its screws cannot be told apart
          </Tick>
        </div>
      )}
      {device.type === "lamp" && (
        <div className={look.fields}>
          <Saved
            label="What people call it"
            value={device.name ?? ""}
            onSave={(name) => edit({ name })}
            onClear={() => edit({ clear: ["name"] })}
          />
          <Measured label="Watts of one lamp" value={device.watts} onSave={(watts) => edit({ watts })} />
          <Measured label="Number of lamps" value={device.count} onSave={(count) => edit({ count })} />
          <Choice
            above
            label="Kind of lamp"
            value={device.load ?? ""}
            options={[["", "not known"], ...(practice?.loads ?? []).map((l): [string, string] => [l, l])]}
            set={(load) => edit(load === "" ? { clear: ["load"] } : { load })}
          />
          <Choice
            above
            label="May be dimmed"
            value={device.dimmable === undefined ? "" : String(device.dimmable)}
            options={[
              ["", "not known"],
              ["true", "yes"],
              ["false", "no"],
            ]}
            set={(so) => edit(so === "" ? { clear: ["dimmable"] } : { dimmable: so === "true" })}
          />
        </div>
      )}
    </div>
  );
}
