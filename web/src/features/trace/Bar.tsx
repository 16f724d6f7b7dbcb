type Odd = { role: string; odds: number };

/** Parts of a bar, the likeliest first: ink alone, since colours mean insulation. */
const shades = ["bg-ink", "bg-soft/60", "border-l border-ink bg-rule", "border-l border-ink bg-sheet"];

/** Odds as a bar. */
export function Bar({ odds }: { odds: Odd[] }) {
  return (
    <span className="mb-1 flex h-2.5 border border-ink" aria-hidden>
      {odds.map((o, i) => (
        <span key={o.role} className={shades[Math.min(i, shades.length - 1)]} style={{ width: `${o.odds * 100}%` }} />
      ))}
    </span>
  );
}

/** What a conductor may be, the likeliest first; what is under one in a hundred comes last, together. */
export function mayBe(odds: Odd[], word: (role: string) => string) {
  const likely = odds.filter((o) => o.odds >= 0.01).map((o) => `${word(o.role)} ${percent(o.odds)}`);
  const hardly = odds.filter((o) => o.odds < 0.01).map((o) => word(o.role));
  return likely.join(", ") + (hardly.length > 0 ? `; under 1 %: ${hardly.join(", ")}` : "");
}

/** Nothing that is open is written as certain. */
export function percent(odds: number) {
  if (odds > 0.99) return "over 99\u00a0%";
  if (odds < 0.01) return "under 1\u00a0%";
  return `${Math.round(odds * 100)}\u00a0%`;
}
