import { useSyncExternalStore } from "react";

/** Whether the program answers. It is asked now and then, and often while it does not. */
const well = 10_000;
const ill = 1_500;

let away = false;
const listeners = new Set<() => void>();

function set(next: boolean) {
  if (next === away) return;
  away = next;
  if (away) held = document.activeElement;
  else if (held instanceof HTMLElement) setTimeout((to: HTMLElement) => to.isConnected && to.focus(), 50, held);
  listeners.forEach((l) => l());
}

/** What had the focus: it gets it back. */
let held: Element | null = null;

/** Notes that a request was answered, or was not. */
export const answered = () => set(false);
export const unanswered = () => set(true);

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};

export const useAway = () => useSyncExternalStore(subscribe, () => away);

/** Asks from now on whether the program is there, and tells when it is back. */
export function keepAsking(back: () => void) {
  let was = away;
  const ask = async () => {
    if (document.visibilityState === "visible" || away) {
      try {
        await fetch("/api/v1/alive", { cache: "no-store" });
        answered();
      } catch {
        unanswered();
      }
    }
    setTimeout(() => void ask(), away ? ill : well);
  };
  subscribe(() => {
    if (was && !away) back();
    else if (away) setTimeout(() => void ask(), ill);
    was = away;
  });
  setTimeout(() => void ask(), well);
}
