import type { CircuitFile, Edit } from "../../api/client";
import { Measured, Saved } from "./CircuitFacts";
import { useWork } from "../circuit/work";

/** Cubic centimetres in a cubic inch. */
const inch3 = 16.387;

/** What is to be said of the box itself: name, whether it was opened, size. */
export function BoxFacts(props: { box: CircuitFile["boxes"][number] }) {
  const { practice, change } = useWork();
  const { box } = props;
  const edit = (fields: Omit<Edit, "op">) => change({ do: "edit", edit: { op: "set-box", box: box.id, ...fields } });
  const inches = practice?.countsFill === true;
  const volume = box.volumeCm3 !== undefined && inches ? Math.round((box.volumeCm3 / inch3) * 100) / 100 : box.volumeCm3;
  return (
    <>
      <div className="fields">
        <Saved label="Name" value={box.name ?? ""} onSave={(name) => edit({ name })} />
        <label className="check">
          <input type="checkbox" checked={box.opened ?? false} onChange={(e) => edit({ opened: e.target.checked })} />
          Opened: I have seen its inside
        </label>
      </div>
      {box.kind !== "panel" && (
        <details className="parts">
          <summary>Size and material of the box</summary>
          <div className="fields">
            <Measured
              label={inches ? "Stamped volume, in³" : "Volume, cm³"}
              value={volume}
              onSave={(v) => edit({ volumeCm3: inches ? v * inch3 : v })}
            />
            <Measured label="Depth inside, mm" value={box.depthMm} onSave={(depthMm) => edit({ depthMm })} />
            <Measured label="Gangs" value={box.gangs} onSave={(gangs) => edit({ gangs })} />
            <label className="field">
              <span>Material</span>
              <select value={box.material ?? ""} onChange={(e) => edit({ material: e.target.value as "metal" })}>
                <option value="" disabled>
                  not noted
                </option>
                <option value="metal">metal</option>
                <option value="plastic">plastic</option>
              </select>
            </label>
          </div>
        </details>
      )}
    </>
  );
}
