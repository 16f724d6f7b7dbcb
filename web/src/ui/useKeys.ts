import { useEffect, useRef } from "react";
import { useSettings } from "./settings";

/**
 * Listens for keys while no field has the focus. "mod+z" stands for Ctrl or Command. Keys without it act
 * only from the stage itself, not from what lies over it, and only if they are not switched off.
 */
export function useKeys(keys: Record<string, (() => void) | undefined>) {
  const latest = useRef(keys);
  const { letters } = useSettings();
  useEffect(() => {
    latest.current = keys;
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      const at = event.target;
      if (!(at instanceof Element) || at.closest("input, textarea, select, [role=menu], [role=listbox], [contenteditable]")) return;
      const mod = event.ctrlKey || event.metaKey;
      if (event.altKey || event.repeat) return; // a key that is held acts once
      const name =
        (mod ? "mod+" : "") + (mod && event.shiftKey ? "shift+" : "") + (event.key.length === 1 ? event.key.toLowerCase() : event.key);
      const plain = !mod && event.key.length === 1;
      if (plain && event.key !== "?" && (!letters || at.closest("[role=dialog]"))) return;
      const act = latest.current[name];
      if (!act) return;
      event.preventDefault();
      act();
    };
    document.addEventListener("keydown", listen);
    return () => document.removeEventListener("keydown", listen);
  }, [letters]);
}
