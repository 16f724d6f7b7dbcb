import { useSyncExternalStore } from "react";

const key = "ambivia-letters";
const watchers = new Set<() => void>();

/** Whether single keys act on this machine; those with Ctrl always do. */
export const useLetters = () =>
  useSyncExternalStore(
    (changed) => {
      watchers.add(changed);
      return () => watchers.delete(changed);
    },
    () => localStorage.getItem(key) !== "off",
  );

export function setLetters(on: boolean) {
  localStorage.setItem(key, on ? "on" : "off");
  watchers.forEach((changed) => changed());
}
