import type { Finding, Schemas } from "../../api/client";

/** Findings that are no mere notes, marked on a drawing at the ends that they are about; a press shows them. */
export function Flags(props: { picture: Schemas["Picture"]; findings: Finding[]; show: (ends: string[]) => void }) {
  const at = places(props.picture);
  const met = new Set<string>();
  return props.findings
    .filter((f) => f.severity !== "note")
    .flatMap((f) =>
      f.at.slice(0, 1).map((end) => {
        const spot = at.get(end);
        if (!spot || met.has(end)) return null;
        met.add(end);
        return (
          <g
            key={f.code + end}
            className="cursor-pointer"
            role="button"
            tabIndex={0}
            aria-label={`Finding: ${f.text}`}
            data-flag={f.code}
            transform={`translate(${spot.x} ${spot.y})`}
            onClick={() => props.show(f.at)}
            onKeyDown={(e) => {
              if (e.key !== "Enter" && e.key !== " ") return;
              e.preventDefault();
              props.show(f.at);
            }}
          >
            <title>{f.text}</title>
            <path d="M0 -13L12 8L-12 8z" fill="var(--sheet)" stroke="var(--ink)" strokeWidth={2} strokeLinejoin="round" />
            <text textAnchor="middle" y={5} fontSize={14} fontWeight={700} fill="var(--ink)" aria-hidden>
              !
            </text>
          </g>
        );
      }),
    );
}

/** Where each end begins in a drawing: a screw at its middle, a core where it enters its box. */
function places(picture: Schemas["Picture"]) {
  const out = new Map<string, { x: number; y: number }>();
  for (const mark of picture.marks) {
    if (mark.kind !== "group") continue;
    for (const inner of mark.marks) {
      if (inner.kind === "circle" && inner.of?.end) out.set(inner.of.end, { x: inner.x, y: inner.y });
      const end = mark.of?.end;
      if (inner.kind !== "path" || !end || out.has(end)) continue;
      const start = /^M(-?[\d.]+) (-?[\d.]+)/.exec(inner.d);
      if (start) out.set(end, { x: Number(start[1]), y: Number(start[2]) });
    }
  }
  return out;
}
