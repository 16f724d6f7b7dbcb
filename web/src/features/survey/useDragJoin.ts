import { useRef, type PointerEvent } from "react";

/** How far a finger moves before it drags rather than presses, in pixels. */
const threshold = 8;

type End = HTMLElement | SVGElement;

/** The end that lies at a point: on the drawing a screw has its slot on top of it. */
const endAt = (x: number, y: number) => {
  for (const el of document.elementsFromPoint(x, y)) {
    const end = el.closest<End>(".wiring [data-end], .front [data-end]");
    if (end) return end;
  }
  return null;
};

/** Which end an element stands for within its box. */
const refOf = (el: End) => (el.dataset.end ?? "").replace(/@.*/, "");

/** One gesture from a core to its screw, or to a neighbour: drag it there, in the list or on the drawing of the box. */
export function useDragJoin(join: (from: string, to: string) => void) {
  const drag = useRef<{ from: End; x: number; y: number; over: End | null; moved: boolean }>(null);
  const mark = (over: End | null) => {
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
      const from = e.target.closest<End>("[data-end]");
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
      if (now && to && refOf(to) !== refOf(now.from)) join(refOf(now.from), refOf(to));
      end();
    },
    onPointerCancel: end,
  };
}
