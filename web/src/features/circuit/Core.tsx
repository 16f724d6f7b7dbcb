import { gaugeUnits, letters } from "../../api/terms.gen";

const byColour: Record<string, string> = letters;

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
    <span className="core">
      <span className={`insulation ins-${props.core.replace(/\d+$/, "")}`} aria-hidden />
      <span aria-hidden>{coreText(props.core)}</span>
      <span className="sr-only">{props.core}</span>
    </span>
  );
}
