import { select } from "d3-selection";
import { zoom, zoomIdentity, zoomTransform, type ZoomBehavior, type ZoomTransform } from "d3-zoom";
import { Maximize, Minus, Plus } from "lucide-react";
import { useEffect, useRef, useState, type ReactNode } from "react";
import type { Schemas } from "../../api/client";
import { Picture, type Acts, type Seen } from "./Picture";
import { Tool } from "../../ui/Tool";

/** Letters of a drawing are so large at scale 1, and are shown no smaller than this at first, in pixels. */
const letters = { drawn: 12.5, least: 11 };

/** How far one press of a key or button goes: in pixels, and as a factor. */
const step = { move: 60, zoom: 1.25 };

/** A picture on the bench: it fills its place, and is zoomed and moved by wheel, fingers, keys and buttons. */
export function Board(props: {
  picture: Schemas["Picture"];
  label: string;
  seen: Seen;
  acts: Acts;
  /** One that lies over it from its left edge, as far as its share in percent goes. */
  over?: { picture: Schemas["Picture"]; share: number } | undefined;
  /** Boxes to bring into sight, where it is not only the one that is picked. */
  bring?: string[] | undefined;
  /** Marks on top of it, in its own measure. */
  flags?: ReactNode;
  /** Shown as a whole at first, however small its letters become. */
  whole?: boolean | undefined;
  /** What lines mean, beside the drawing's own signs. */
  legend?: ReactNode;
}) {
  const { picture, seen } = props;
  const { drawn } = picture; // a heading stands above the board already
  const place = useRef<HTMLDivElement>(null);
  const paper = useRef<HTMLDivElement>(null);
  const [room, setRoom] = useState<{ w: number; h: number }>();
  const behaviour = useRef<ZoomBehavior<HTMLDivElement, unknown>>(null);
  useEffect(() => {
    const el = place.current;
    if (!el) return;
    const zooming = zoom<HTMLDivElement, unknown>()
      .scaleExtent([0.2, 4])
      .clickDistance(5)
      .on("zoom", ({ transform }: { transform: ZoomTransform }) => {
        if (paper.current) paper.current.style.transform = `translate(${transform.x}px, ${transform.y}px) scale(${transform.k})`;
      });
    behaviour.current = zooming;
    const board = select(el).call(zooming).on("dblclick.zoom", null);
    const watch = new ResizeObserver(() => setRoom({ w: el.clientWidth, h: el.clientHeight }));
    watch.observe(el);
    return () => {
      watch.disconnect();
      board.on(".zoom", null);
    };
  }, []);

  const whole = room ? Math.min(1, room.w / drawn.w, room.h / drawn.h) : 1;
  const first = props.whole ? whole : Math.max(whole, letters.least / letters.drawn);
  const put = (x: number, y: number, scale: number) => {
    if (place.current && behaviour.current)
      select(place.current).call(behaviour.current.transform, zoomIdentity.translate(x, y).scale(scale));
  };
  const fit = (scale: number) => {
    if (room) put(Math.max(0, (room.w - drawn.w * scale) / 2), Math.max(0, (room.h - drawn.h * scale) / 2), scale);
  };
  const larger = (by: number) => {
    if (place.current && behaviour.current) select(place.current).call(behaviour.current.scaleBy, by);
  };
  const move = (x: number, y: number) => {
    if (!place.current) return;
    const now = zoomTransform(place.current);
    put(now.x + x, now.y + y, now.k);
  };
  /** Brings boxes into sight: all of them where they fit at this size, else the first. */
  const show = (boxes: string[]) => {
    const el = place.current;
    const rooms = boxes.flatMap((b) => el?.querySelector<SVGElement>(`[data-box="${b}"]`)?.getBoundingClientRect() ?? []);
    const [only] = rooms;
    if (!el || !only) return;
    const frame = el.getBoundingClientRect();
    const now = zoomTransform(el);
    /** Where the picture's edge goes along one way, so that what is asked for lies within the frame. */
    const along = (from: "left" | "top", to: "right" | "bottom", edge: number, room: number, drawn: number) => {
      const all = { from: Math.min(...rooms.map((r) => r[from])), to: Math.max(...rooms.map((r) => r[to])) };
      const at = all.to - all.from <= room ? all : { from: only[from], to: only[to] };
      if (at.from >= frame[from] && at.to <= frame[to]) return edge;
      return Math.min(0, Math.max(Math.min(0, room - drawn), edge + frame[from] + room / 2 - (at.from + at.to) / 2));
    };
    const x = along("left", "right", now.x, frame.width, drawn.w * now.k);
    const y = along("top", "bottom", now.y, frame.height, drawn.h * now.k);
    if (x !== now.x || y !== now.y) put(x, y, now.k);
  };
  // Another picture, or another room for it: all is shown that can be read, and the box that is picked.
  const size = `${drawn.w} ${drawn.h} ${room?.w} ${room?.h}`;
  const fitted = useRef("");
  useEffect(() => {
    if (!room || fitted.current === size) return;
    fitted.current = size;
    fit(first);
    show(props.bring ?? [seen.box ?? ""]);
  });
  useEffect(() => show([seen.box ?? ""]), [seen.box]); // eslint-disable-line react-hooks/exhaustive-deps -- when another box is picked, and no other time
  const brought = props.bring?.join(" ");
  useEffect(() => show(props.bring ?? []), [brought]); // eslint-disable-line react-hooks/exhaustive-deps -- when the probes go elsewhere

  const keys: Record<string, () => void> = {
    "+": () => larger(step.zoom),
    "=": () => larger(step.zoom),
    "-": () => larger(1 / step.zoom),
    "0": () => fit(whole),
    ArrowLeft: () => move(step.move, 0),
    ArrowRight: () => move(-step.move, 0),
    ArrowUp: () => move(0, step.move),
    ArrowDown: () => move(0, -step.move),
  };
  return (
    <div className="relative flex min-h-0 flex-1 flex-col">
      <div
        ref={place}
        className="board min-h-0 flex-1 overflow-hidden bg-sheet"
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
        <div ref={paper} className="relative w-fit origin-top-left">
          <Picture picture={picture} crop={drawn} seen={seen} acts={props.acts}>
            {props.flags}
          </Picture>
          {props.over && props.over.share > 0 && (
            <>
              <div
                className="absolute inset-0 bg-sheet"
                aria-hidden={props.over.share < 50}
                style={{ clipPath: `inset(0 ${100 - props.over.share}% 0 0)` }}
              >
                <Picture picture={props.over.picture} crop={drawn} />
              </div>
              <div className="absolute inset-y-0 w-0.5 bg-ink" style={{ left: `${props.over.share}%` }} />
            </>
          )}
        </div>
      </div>
      <div className="flex min-h-7 flex-wrap items-center gap-x-4 bg-sheet px-4 text-[0.8rem] text-soft print:hidden">
        <Signs picture={picture} />
        {props.legend}
      </div>
      <div className="absolute right-2 bottom-9 flex border border-rule bg-sheet" role="group" aria-label="Size of the drawing">
        <Tool icon={Minus} label="Smaller" hint="Smaller (−)" onClick={keys["-"]} />
        <Tool icon={Maximize} label="See all of the drawing" hint="See all (0)" onClick={keys["0"]} />
        <Tool icon={Plus} label="Larger" hint="Larger (+)" onClick={keys["+"]} />
      </div>
    </div>
  );
}

/** The drawing's own signs: what a dot, a cap, a flag and a tape mean. */
function Signs({ picture }: { picture: Schemas["Picture"] }) {
  return picture.marks.flatMap((m) => (m.kind === "text" && m.part === "legend" ? <span key={m.text}>{m.text}</span> : []));
}
