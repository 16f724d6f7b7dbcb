import { useEffect, useRef } from "react";
import { useFront } from "../api/queries";
import { useWork } from "./work";

/** The box as one stands before it: cables at the top, connectors behind, devices
 * in front. A press on a core or screw picks it. */
export function BoxPicture(props: { box: string; picked: string[]; pick: (ref: string) => void }) {
  const { circuit } = useWork();
  const drawing = useFront(circuit.id, circuit.revision, props.box);
  const frame = useRef<HTMLDivElement>(null);
  const svg = drawing.data;
  useEffect(() => {
    frame.current?.querySelectorAll<SVGElement>("[data-end]").forEach((el) => el.classList.toggle("pointed", props.picked.includes((el.dataset.end ?? "").replace(/@.*/, ""))));
  }, [svg, props.picked]);
  if (!svg) return null;
  const name = circuit.document.boxes.find((b) => b.id === props.box)?.name ?? props.box;
  return (
    <div
      ref={frame}
      className="front"
      role="region"
      aria-label={`${name} from the front`}
      tabIndex={0}
      onClick={(e) => {
        const end = (e.target as Element).closest("[data-end]")?.getAttribute("data-end");
        if (end) props.pick(end.replace(/@.*/, ""));
      }}
      dangerouslySetInnerHTML={{ __html: svg }}
    />
  );
}
