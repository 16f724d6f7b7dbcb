import { Maximize, Minus, Plus } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { TransformComponent, TransformWrapper, type ReactZoomPanPinchRef } from "react-zoom-pan-pinch";
import type { Schemas } from "../../api/client";
import { Hint } from "../../ui/Hint";
import { Picture, type Acts, type Seen } from "./Picture";

/** Letters of a drawing are so large at scale 1, and are shown no smaller than this at first, in pixels. */
const letters = { drawn: 12.5, least: 11 };

/** A picture on the bench: it fills its place, and is zoomed and moved by wheel, fingers, keys and buttons. */
export function Board(props: { picture: Schemas["Picture"]; label: string; seen: Seen; acts: Acts }) {
  const { picture, seen } = props;
  const place = useRef<HTMLDivElement>(null);
  const view = useRef<ReactZoomPanPinchRef>(null);
  const [room, setRoom] = useState<{ w: number; h: number }>();
  useEffect(() => {
    const el = place.current;
    if (!el) return;
    const watch = new ResizeObserver(() => setRoom({ w: el.clientWidth, h: el.clientHeight }));
    watch.observe(el);
    return () => watch.disconnect();
  }, []);

  const whole = room ? Math.min(1, room.w / picture.width, room.h / picture.height) : 1;
  const first = Math.max(whole, letters.least / letters.drawn);
  const fit = (scale: number) => {
    if (!room) return;
    const left = Math.max(0, (room.w - picture.width * scale) / 2);
    const top = Math.max(0, (room.h - picture.height * scale) / 2);
    view.current?.setTransform(left, top, scale, 0);
  };
  const show = () => {
    const el = place.current;
    const picked = el?.querySelector<SVGElement>(`[data-box="${seen.box ?? ""}"]`);
    const now = view.current?.instance.transformState;
    if (!el || !picked || !now) return;
    const at = picked.getBoundingClientRect();
    const frame = el.getBoundingClientRect();
    if (at.left >= frame.left && at.right <= frame.right) return;
    const to = now.positionX + frame.left + frame.width / 2 - (at.left + at.width / 2);
    const least = Math.min(0, frame.width - picture.width * now.scale);
    view.current?.setTransform(Math.min(0, Math.max(least, to)), now.positionY, now.scale, 0);
  };
  // Another picture, or another room for it: all is shown that can be read, and the box that is picked.
  const size = `${picture.width} ${picture.height} ${room?.w} ${room?.h}`;
  const fitted = useRef("");
  const [ready, setReady] = useState(false);
  useEffect(() => {
    if (!ready || !room || fitted.current === size) return;
    fitted.current = size;
    fit(first);
    const later = requestAnimationFrame(show);
    return () => cancelAnimationFrame(later);
  });
  useEffect(() => {
    if (ready) show();
  }, [seen.box]); // eslint-disable-line react-hooks/exhaustive-deps -- when another box is picked, and no other time

  const move = (x: number, y: number) => {
    const now = view.current?.instance.transformState;
    if (now) view.current?.setTransform(now.positionX + x, now.positionY + y, now.scale, 0);
  };
  const keys: Record<string, () => void> = {
    "+": () => view.current?.zoomIn(0.25, 0),
    "=": () => view.current?.zoomIn(0.25, 0),
    "-": () => view.current?.zoomOut(0.25, 0),
    "0": () => fit(whole),
    ArrowLeft: () => move(60, 0),
    ArrowRight: () => move(-60, 0),
    ArrowUp: () => move(0, 60),
    ArrowDown: () => move(0, -60),
  };
  return (
    <div
      ref={place}
      className="board relative min-h-0 flex-1 overflow-hidden bg-(--sheet)"
      role="region"
      aria-label={`${props.label}: drawing`}
      tabIndex={0}
      onKeyDown={(e) => {
        const act = keys[e.key];
        if (!act || e.target !== e.currentTarget || e.ctrlKey || e.metaKey || e.altKey) return;
        e.preventDefault();
        act();
      }}
    >
      <TransformWrapper
        ref={view}
        onInit={() => setReady(true)}
        minScale={0.2}
        maxScale={4}
        limitToBounds={false}
        doubleClick={{ disabled: true }}
        wheel={{ step: 0.08 }}
        panning={{ velocityDisabled: true }}
      >
        <TransformComponent wrapperClass="!size-full">
          <Picture picture={picture} seen={seen} acts={props.acts} />
        </TransformComponent>
      </TransformWrapper>
      <div className="absolute right-2 bottom-2 flex border border-(--rule) bg-(--sheet)" role="group" aria-label="Size of the drawing">
        <Hint text="Smaller (−)">
          <button type="button" className="tool" aria-label="Smaller" onClick={keys["-"]}>
            <Minus aria-hidden size={18} />
          </button>
        </Hint>
        <Hint text="See all (0)">
          <button type="button" className="tool" aria-label="See all of the drawing" onClick={keys["0"]}>
            <Maximize aria-hidden size={18} />
          </button>
        </Hint>
        <Hint text="Larger (+)">
          <button type="button" className="tool" aria-label="Larger" onClick={keys["+"]}>
            <Plus aria-hidden size={18} />
          </button>
        </Hint>
      </div>
    </div>
  );
}
