import type { Schemas } from "../../api/client";
import { usePicture } from "../../api/queries";
import { boxName, useWork } from "../circuit/work";
import { Picture } from "../drawing/Picture";

/** What of a box is shown around the end that is touched, in the drawing's own measure. */
const around = { w: 330, h: 92, below: 54 };

/** Where the probes go: the mouth of each box, with the end that is touched ringed. */
export function Probes({ at }: { at: string[] }) {
  const ends = at.filter((end) => end.includes("@"));
  if (ends.length === 0) return null;
  return (
    <div className="grid gap-1" role="group" aria-label="Where the probes go">
      {ends.map((end) => (
        <Probe key={end} end={end} />
      ))}
    </div>
  );
}

function Probe({ end }: { end: string }) {
  const { circuit } = useWork();
  const [, box = ""] = end.split("@");
  const drawing = usePicture(circuit.id, circuit.revision, { of: "found", box });
  const tag = drawing.data && tagOf(drawing.data, end);
  if (!drawing.data || !tag) return null;
  const { width } = drawing.data;
  const w = Math.min(width, around.w);
  const crop = { x: Math.max(0, Math.min(width - w, tag.x - w / 2)), y: tag.y - around.below, w, h: around.h };
  return (
    <figure className="border border-rule bg-sheet [&_svg]:h-auto [&_svg]:max-w-full">
      <figcaption className="px-2 text-sm leading-snug text-soft">{boxName(circuit, box)}</figcaption>
      <Picture picture={drawing.data} seen={{ pointed: [end] }} crop={crop}>
        <circle cx={tag.x} cy={tag.y} r={19} fill="none" stroke="var(--ink)" strokeWidth={3} />
      </Picture>
    </figure>
  );
}

/** Where the letters of a core's end stand in a drawing: the middle of them. */
function tagOf(picture: Schemas["Picture"], end: string) {
  for (const mark of picture.marks) {
    if (mark.kind === "rect" && mark.of?.end === end) return { x: mark.x + mark.w / 2, y: mark.y + mark.h / 2 };
  }
  return undefined;
}
