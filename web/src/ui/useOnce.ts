import { useRef } from "react";

/**
 * Lets an action run once at a time: a second press before the first is done
 * does nothing. `what` tells actions apart that may run side by side.
 */
export function useOnce() {
  const running = useRef(new Set<string>());
  return (what: string, act: () => Promise<unknown>) => {
    if (running.current.has(what)) return;
    running.current.add(what);
    act()
      .catch(() => undefined) // the mutation itself keeps its error for the page
      .finally(() => running.current.delete(what));
  };
}
