import type { CircuitFile, Edit } from "../../api/client";
import { Measured, Saved } from "./CircuitFacts";
import { useMeasures } from "../../ui/settings";
import { useWork } from "../circuit/work";
import { Fold } from "../../ui/Fold";
import { Choice } from "../../ui/Choice";
import { Tick } from "../../ui/Tick";
import { among } from "../../ui/among";
import { look } from "../../ui/look";

/** What is to be said of the box itself: name, whether it was opened, size. */
export function BoxFacts(props: { box: CircuitFile["boxes"][number] }) {
  const { practice, change } = useWork();
  const { box } = props;
  const edit = (fields: Omit<Edit, "op">) => change({ do: "edit", edit: { op: "set-box", box: box.id, ...fields } });
  const { volume, length } = useMeasures(practice?.countsFill === true);
  return (
    <>
      <div className={look.fields}>
        <Saved label="Name" value={box.name ?? ""} onSave={(name) => edit({ name })} onClear={() => edit({ clear: ["name"] })} />
        <Tick checked={box.opened ?? false} set={(opened) => edit({ opened })}>
          Opened: I have seen its inside
        </Tick>
      </div>
      {box.kind !== "panel" && (
        <Fold className="print:hidden" title="Size and material of the box">
          <div className={look.fields}>
            <Measured
              label={`${practice?.countsFill ? "Stamped volume" : "Volume"}, ${volume.unit}`}
              value={volume.shown(box.volumeCm3)}
              onSave={(v) => edit({ volumeCm3: volume.taken(v) })}
            />
            <Measured
              label={`Depth inside, ${length.unit}`}
              value={length.shown(box.depthMm)}
              onSave={(v) => edit({ depthMm: length.taken(v) })}
            />
            <Measured label="Gangs" value={box.gangs} onSave={(gangs) => edit({ gangs })} />
            <Choice
              above
              label="Material"
              value={box.material ?? ""}
              options={[
                ["", "not noted"],
                ["metal", "metal"],
                ["plastic", "plastic"],
              ]}
              set={(material) => edit(material === "" ? { clear: ["material"] } : { material: among(["metal", "plastic"], material) })}
            />
            {practice?.countsFill && (
              <Choice
                above
                label="Cable clamps inside"
                value={box.clamps === undefined ? "" : box.clamps ? "yes" : "no"}
                options={[
                  ["", "not noted"],
                  ["yes", "there are"],
                  ["no", "none"],
                ]}
                set={(to) => edit(to === "" ? { clear: ["clamps"] } : { clamps: to === "yes" })}
              />
            )}
          </div>
        </Fold>
      )}
    </>
  );
}
