import { useSyncExternalStore } from "react";

const wide = window.matchMedia("(min-width: 1024px)");

/** Whether the screen is wide enough for the bench: the circuit and the inspector side by side. */
export const useWide = () =>
  useSyncExternalStore(
    (changed) => {
      wide.addEventListener("change", changed);
      return () => wide.removeEventListener("change", changed);
    },
    () => wide.matches,
  );
