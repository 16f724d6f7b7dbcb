import { useRef, type PointerEvent } from "react";

/** How far a finger moves before it drags rather than presses, in pixels. */
const threshold = 8;

const endAt = (x: number, y: number) => document.elementFromPoint(x, y)?.closest<HTMLElement>(".wiring [data-end]") ?? null;

/** One gesture from a core to its screw, or to a neighbour: drag it there. */
export function useDragJoin(join: (from: string, to: string) => void) {
  const drag = useRef<{ from: HTMLElement; x: number; y: number; over: HTMLElement | null; moved: boolean }>(null);
  const mark = (over: HTMLElement | null) => {
    const now = drag.current;
    if (!now || now.over === over) return;
    now.over?.classList.remove("drop-here");
    if (over !== now.from) over?.classList.add("drop-here");
    now.over = over;
  };
  const end = () => {
    mark(null);
    drag.current?.from.classList.remove("dragged");
    drag.current = null;
  };
  return {
    onPointerDown: (e: PointerEvent) => {
      if (!(e.target instanceof Element)) return;
      const from = e.target.closest<HTMLElement>("[data-end]");
      const held = e.pointerType === "mouse" || e.target.closest(".core"); // a finger elsewhere scrolls
      if (from && held && e.button === 0) drag.current = { from, x: e.clientX, y: e.clientY, over: null, moved: false };
    },
    onPointerMove: (e: PointerEvent) => {
      const now = drag.current;
      if (!now) return;
      if (!now.moved && Math.hypot(e.clientX - now.x, e.clientY - now.y) < threshold) return;
      now.moved = true;
      now.from.classList.add("dragged");
      mark(endAt(e.clientX, e.clientY));
    },
    onPointerUp: (e: PointerEvent) => {
      const now = drag.current;
      const to = now?.moved ? endAt(e.clientX, e.clientY) : null;
      if (now && to && to !== now.from) join(now.from.dataset.end ?? "", to.dataset.end ?? "");
      end();
    },
    onPointerCancel: end,
  };
}
