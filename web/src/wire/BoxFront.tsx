import { useEffect, useRef } from "react";
import type { Version } from "../api/client";
import { useDrawing } from "../api/queries";
import { useWork } from "../circuit/work";

/** One box from the front, as found or as planned; a press on a wire or screw points at it everywhere. */
export function BoxFront(props: { box: string; of: Version; label: string }) {
  const { circuit, pointed, point } = useWork();
  const drawing = useDrawing(circuit.id, circuit.revision, { of: props.of, box: props.box, compare: props.of === "planned" });
  const frame = useRef<HTMLDivElement>(null);
  const svg = drawing.data;
  useEffect(() => {
    frame.current?.querySelectorAll<SVGElement>("[data-end]").forEach((el) => el.classList.toggle("pointed", pointed.includes(el.dataset.end ?? "")));
  }, [svg, pointed]);
  if (!svg) return null;
  return (
    <div
      ref={frame}
      className="front"
      role="region"
      aria-label={props.label}
      tabIndex={0}
      onClick={(e) => {
        const end = (e.target as Element).closest("[data-end]")?.getAttribute("data-end");
        if (end) point([end]);
      }}
      dangerouslySetInnerHTML={{ __html: svg }}
    />
  );
}
