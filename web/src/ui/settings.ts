import { useSyncExternalStore } from "react";
import { cubicInch, inch } from "../api/terms.gen";

/** What a person has set on this machine. */
export type Settings = {
  /** Single keys act; those with Ctrl always do. */
  letters: boolean;
  /** In which prices are shown, as ISO 4217 has it; empty for plain numbers. */
  currency: string;
  /** How dates are written. */
  dates: "here" | "iso" | "day" | "month";
  /** The wiring practice of new circuits; empty where nobody set one. */
  practice: string;
  /** In what boxes are measured: as the practice stamps them, or as the person has it. */
  units: "practice" | "metric" | "inch";
};

const key = "ambivia-settings";
const usual: Settings = { letters: true, currency: "", dates: "here", practice: "", units: "practice" };
const watchers = new Set<() => void>();
let now = read();

function read(): Settings {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(key) ?? "{}");
    return { ...usual, ...(typeof kept === "object" ? kept : {}) };
  } catch {
    return usual; // what nobody can read is as if it were not set
  }
}

export const useSettings = () =>
  useSyncExternalStore(
    (changed) => {
      watchers.add(changed);
      return () => watchers.delete(changed);
    },
    () => now,
  );

export function setSettings(next: Partial<Settings>) {
  now = { ...now, ...next };
  localStorage.setItem(key, JSON.stringify(now));
  watchers.forEach((changed) => changed());
}

/** Writes prices as the person has set it. */
export function useMoney() {
  const { currency } = useSettings();
  return (price: number | undefined) => {
    if (price === undefined) return "—";
    if (!currency) return String(price);
    return new Intl.NumberFormat(undefined, {
      style: "currency",
      currency,
      minimumFractionDigits: Number.isInteger(price) ? 0 : 2,
      maximumFractionDigits: 2,
    }).format(price);
  };
}

/** The label of a price that is typed: with the currency that the person set. */
export function usePriced() {
  const { currency } = useSettings();
  return (label: string) => (currency ? `${label}, ${currency}` : label);
}

/** Writes dates as the person has set it, with the time of day where that matters. */
export function useDates() {
  const { dates } = useSettings();
  return (at: string, time = false) => {
    const day = new Date(at);
    const two = (n: number) => String(n).padStart(2, "0");
    const [y, m, d] = [day.getFullYear(), two(day.getMonth() + 1), two(day.getDate())];
    const clock = time ? `, ${two(day.getHours())}:${two(day.getMinutes())}` : "";
    switch (dates) {
      case "here":
        return day.toLocaleString(undefined, time ? { dateStyle: "medium", timeStyle: "short" } : { dateStyle: "medium" });
      case "iso":
        return `${y}-${m}-${d}${clock}`;
      case "day":
        return `${d}.${m}.${y}${clock}`;
      case "month":
        return `${m}/${d}/${y}${clock}`;
    }
  };
}

/** One measure of a box: its unit, and how it is shown and taken. */
export type Measure = { unit: string; shown: (value: number | undefined) => number | undefined; taken: (value: number) => number };

const inUnits = (unit: string, size: number): Measure => ({
  unit,
  shown: (value) => (value === undefined ? undefined : Math.round((value / size) * 100) / 100),
  taken: (value) => value * size,
});

/** How boxes are measured: by the setting, and where none is by the practice, which stamps them in inches or not. */
export function useMeasures(stampedInInches: boolean): { volume: Measure; length: Measure } {
  const { units } = useSettings();
  const inches = units === "inch";
  return {
    volume: inches || (units === "practice" && stampedInInches) ? inUnits("in³", cubicInch) : inUnits("cm³", 1),
    length: inches ? inUnits("in", inch) : inUnits("mm", 1),
  };
}
