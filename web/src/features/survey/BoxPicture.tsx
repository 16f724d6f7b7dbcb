import { useMemo } from "react";
import { usePicture } from "../../api/queries";
import { isCore, useWork } from "../circuit/work";
import type { useDragJoin } from "./useDragJoin";
import { Picture } from "../drawing/Picture";
import { look } from "../../ui/look";

/** The box as one stands before it: cables at the top, connectors behind, devices
 * in front. A press on a core or screw picks it, and a core is dragged onto its screw. */
export function BoxPicture(props: { box: string; picked: string[]; pick: (ref: string) => void; drag: ReturnType<typeof useDragJoin> }) {
  const { circuit } = useWork();
  const { box, picked, pick } = props;
  const drawing = usePicture(circuit.id, circuit.revision, { of: "found", box });
  const acts = useMemo(() => ({ pick: (end: string) => pick(end.replace(/@.*/, "")) }), [pick]);
  if (!drawing.data) return <div className={`${look.front} h-108`} />; // about as high as most are
  const name = circuit.document.boxes.find((b) => b.id === box)?.name ?? box;
  return (
    <div className={look.front} role="region" aria-label={`${name} from the front`} tabIndex={0} {...props.drag}>
      <Picture
        picture={drawing.data}
        seen={{ pointed: picked.map((ref) => (isCore(circuit.document, ref) ? `${ref}@${box}` : ref)) }}
        acts={acts}
      />
    </div>
  );
}
