import { useEffect, useRef } from "react";

/**
 * Listens for single keys while no field has the focus. "mod+z" stands for
 * Ctrl or Command.
 */
export function useKeys(keys: Record<string, (() => void) | undefined>) {
  const latest = useRef(keys);
  useEffect(() => {
    latest.current = keys;
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      const at = event.target;
      if (!(at instanceof Element) || at.closest("input, textarea, select, [role=menu], [contenteditable]")) return;
      const mod = event.ctrlKey || event.metaKey;
      if (event.altKey || event.repeat) return; // a key that is held acts once
      const name =
        (mod ? "mod+" : "") + (mod && event.shiftKey ? "shift+" : "") + (event.key.length === 1 ? event.key.toLowerCase() : event.key);
      const act = latest.current[name];
      if (!act) return;
      event.preventDefault();
      act();
    };
    document.addEventListener("keydown", listen);
    return () => document.removeEventListener("keydown", listen);
  }, []);
}
