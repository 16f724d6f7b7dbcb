import { gaugeUnits, insulations, letters } from "../../api/terms.gen";

const byColour: Record<string, string> = letters;

/** The tint of a colour of insulation, dashed where it has two. */
function tint(colour: string) {
  const drawn = new Map<string, { tint: string; second?: string; dash?: readonly [number, number] }>(Object.entries(insulations)).get(
    colour,
  );
  if (!drawn?.second || !drawn.dash) return drawn?.tint;
  const [on, off] = drawn.dash;
  return `repeating-linear-gradient(90deg, ${drawn.second} 0 ${on}px, ${drawn.tint} ${on}px ${on + off}px)`;
}

/** A core in letters: "black2" is BK2. */
export function coreText(core: string): string {
  const colour = core.replace(/\d+$/, "");
  return (byColour[colour] ?? colour) + core.slice(colour.length);
}

/** A gauge as one writes it: "1.5mm2" is 1.5 mm². */
export const gaugeText = (gauge: string) =>
  Object.entries(gaugeUnits).reduce((text, [unit, written]) => text.replace(unit, written), gauge);

/** A core's insulation, doubled by letters. */
export function Core(props: { core: string }) {
  return (
    <span className="core inline-flex items-center gap-1.5 font-[650]">
      <span
        className="insulation h-3 w-6 shrink-0 rounded-xs border-[1.5px] border-ink"
        style={{ background: tint(props.core.replace(/\d+$/, "")) }}
        aria-hidden
      />
      <span aria-hidden>{coreText(props.core)}</span>
      <span className="sr-only">{props.core}</span>
    </span>
  );
}
