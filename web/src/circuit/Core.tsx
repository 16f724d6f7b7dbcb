/** Letters of each insulation colour, as on the drawings. */
const letters: Record<string, string> = {
  black: "BK", red: "RD", white: "WH", blue: "BU", yellow: "YE", grey: "GY", brown: "BN", orange: "OG", purple: "VT",
  bare: "bare", green: "GN", "green-yellow": "GNYE",
};

/** A core in letters: "black2" is BK2. */
export function coreText(core: string): string {
  const colour = core.replace(/\d+$/, "");
  return (letters[colour] ?? colour) + core.slice(colour.length);
}

/** A gauge as one writes it: "1.5mm2" is 1.5 mm². */
export const gaugeText = (gauge: string) => gauge.replace("mm2", " mm²").replace("AWG", " AWG");

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
