import type { CircuitFile, Edit } from "../api/client";
import { Saved } from "./CircuitFacts";
import { useWork } from "./work";

/** Cubic centimetres in a cubic inch. */
const inch3 = 16.387;

/** What is to be said of the box itself: name, whether it was opened, size. */
export function BoxFacts(props: { box: CircuitFile["boxes"][number] }) {
  const { circuit, change } = useWork();
  const { box } = props;
  const edit = (fields: Omit<Edit, "op">) => change({ do: "edit", edit: { op: "set-box", box: box.id, ...fields } });
  const inches = circuit.document.practice === "na";
  const volume = box.volumeCm3 === undefined ? "" : String(inches ? Math.round((box.volumeCm3 / inch3) * 100) / 100 : box.volumeCm3);
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
            <Saved label={inches ? "Stamped volume, in³" : "Volume, cm³"} type="number" value={volume} onSave={(v) => edit({ volumeCm3: inches ? Number(v) * inch3 : Number(v) })} />
            <Saved label="Depth inside, mm" type="number" value={String(box.depthMm ?? "")} onSave={(v) => edit({ depthMm: Number(v) })} />
            <Saved label="Gangs" type="number" value={String(box.gangs ?? "")} onSave={(v) => edit({ gangs: Number(v) })} />
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
