import { useMemo } from "react";
import type { Version } from "../../api/client";
import { usePicture } from "../../api/queries";
import { useWork } from "../circuit/work";
import { Picture } from "../drawing/Picture";
import { look } from "../../ui/look";

/** One box from the front, as found or as planned; a press on a wire or screw points at it everywhere. */
export function BoxFront(props: { box: string; of: Version; label: string }) {
  const { circuit, pointed, point } = useWork();
  const drawing = usePicture(circuit.id, circuit.revision, { of: props.of, box: props.box, compare: props.of === "planned" });
  const acts = useMemo(() => ({ pick: (end: string) => point([end]) }), [point]);
  if (!drawing.data) return <div className={`${look.front} h-108`} />; // about as high as most are
  return (
    <div className={look.front} role="region" aria-label={props.label} tabIndex={0}>
      <Picture picture={drawing.data} seen={{ pointed }} acts={acts} />
    </div>
  );
}
