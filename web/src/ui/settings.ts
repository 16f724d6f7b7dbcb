import { useSyncExternalStore } from "react";

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
};

const key = "ambivia-settings";
const usual: Settings = { letters: true, currency: "", dates: "here", practice: "" };
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
