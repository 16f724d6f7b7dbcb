import { memo, useEffect, useRef, useState, type ReactNode, type SVGAttributes } from "react";
import type { Schemas } from "../../api/client";

type PictureData = Schemas["Picture"];
type Mark = Schemas["Mark"];
type Subject = Schemas["Subject"];
type Live = Schemas["Live"];

/** What is shown of a circuit in its picture beside the marks themselves: what is live, and what is pointed at. */
export type Seen = {
  live?: Live | undefined;
  pointed?: string[] | undefined;
  /** The conductor that is followed; all others are faint. */
  followed?: number | undefined;
  /** The box that is picked. */
  box?: string | undefined;
  /** Ends that are off their screws for a while. */
  lifted?: string[] | undefined;
};

export type Acts = {
  press?: ((device: string) => void) | undefined;
  pick?: ((end: string, conductor: number | undefined) => void) | undefined;
};

/** A drawing of the server's, mark by mark, or a part of it. Tints that are no insulation follow the theme. */
export function Picture(props: {
  picture: PictureData;
  seen?: Seen;
  acts?: Acts;
  scale?: number;
  crop?: { x: number; y: number; w: number; h: number };
  children?: ReactNode;
}) {
  const { picture, seen = {}, acts = {} } = props;
  const scale = props.scale ?? 1;
  const { x, y, w, h } = props.crop ?? { x: 0, y: 0, w: picture.width, h: picture.height };
  return (
    <svg
      className={seen.followed === undefined ? "diagram" : "diagram following"}
      viewBox={`${x} ${y} ${w} ${h}`}
      width={w * scale}
      height={h * scale}
      role="group"
      aria-label={picture.title}
    >
      {picture.marks.map((mark, i) => (
        <One key={i} mark={mark} seen={seenOf(mark, seen)} acts={acts} />
      ))}
      {props.children}
    </svg>
  );
}

/** What of all that is seen concerns one mark, so that the others stay as they are. */
type SeenOne = { of?: string; pointed: boolean; followed: boolean; picked: boolean; lifted: boolean; live?: Live };

const nothing: SeenOne = { pointed: false, followed: false, picked: false, lifted: false };

function seenOf(mark: Mark, seen: Seen): SeenOne {
  const of = "of" in mark ? mark.of : undefined;
  switch (mark.part) {
    case "wire":
    case "kept":
      return {
        of: seen.live && potential(seen.live, of),
        pointed: seen.pointed?.includes(of?.end ?? "") ?? false,
        followed: seen.followed !== undefined && seen.followed === of?.conductor,
        picked: false,
        lifted: seen.lifted?.includes(of?.end ?? "") ?? false,
      };
    case "room":
      return { ...nothing, picked: seen.box !== undefined && seen.box === of?.box };
    case "device":
      return { ...nothing, live: seen.live, of: seen.pointed?.filter((end) => end.startsWith(`${of?.device}.`)).join(" ") };
  }
  return nothing;
}

const potential = (live: Live, of: Subject | undefined) =>
  of?.conductor === undefined ? "floating" : (live.conductors[of.conductor] ?? "floating");

const alike = (a: SeenOne, b: SeenOne) =>
  a.of === b.of &&
  a.pointed === b.pointed &&
  a.followed === b.followed &&
  a.picked === b.picked &&
  a.lifted === b.lifted &&
  a.live === b.live;

const One = memo(
  function One({ mark, seen, acts }: { mark: Mark; seen: SeenOne; acts: Acts }) {
    if (mark.kind !== "group") return drawn(mark, 0, seen.picked ? "picked" : "");
    const of = mark.of ?? {};
    const inner = mark.marks.map((m, i) => <Inner key={i} mark={m} seen={seen} acts={acts} />);
    if (mark.part === "device") {
      const device = of.device ?? "";
      if (!of.press || !acts.press)
        return (
          <g className="device" data-device={device}>
            {inner}
          </g>
        );
      const press = acts.press;
      return (
        <g
          className="device"
          data-device={device}
          data-control={device}
          role="button"
          tabIndex={0}
          aria-label={of.press}
          onClick={() => press(device)}
          onKeyDown={(e) => {
            if (e.key !== "Enter" && e.key !== " ") return;
            e.preventDefault();
            if (!e.repeat) press(device);
          }}
        >
          {inner}
        </g>
      );
    }
    const name = ["wire", mark.part === "kept" && "kept", seen.pointed && "pointed", seen.followed && "followed", seen.lifted && "lifted"]
      .filter(Boolean)
      .join(" ");
    return (
      <g
        className={name}
        data-end={of.end}
        data-class={of.conductor}
        data-live={seen.of}
        onClick={of.end && acts.pick ? () => acts.pick?.(of.end ?? "", of.conductor) : undefined}
      >
        {inner}
      </g>
    );
  },
  (a, b) => a.mark === b.mark && a.acts === b.acts && alike(a.seen, b.seen),
);

/** A mark within a group: a contact that is closed or not, a lamp that is lit or not, a screw that is pointed at. */
function Inner({ mark, seen, acts }: { mark: Mark; seen: SeenOne; acts: Acts }): ReactNode {
  if (mark.kind === "group") {
    const lamp = mark.of?.lamp;
    const lit = seen.live?.lamps.some((l) => l.device === lamp && l.lit) ?? false;
    return (
      <g className={lit ? "lamp lit" : "lamp"} data-lamp={lamp}>
        {mark.marks.map((m, i) => drawn(m, i, ""))}
      </g>
    );
  }
  const of = "of" in mark ? mark.of : undefined;
  switch (mark.part) {
    case "contact":
      return drawn(mark, 0, seen.live && of?.contact !== undefined && seen.live.state[of.contact] === of.position ? "closed" : "", {
        "data-contact": of?.contact,
        "data-position": of?.position,
      });
    case "screw":
      return drawn(
        mark,
        0,
        seen.of?.split(" ").includes(of?.end ?? "") ? "pointed" : "",
        { "data-end": of?.end, "data-class": of?.conductor, "data-live": seen.live && potential(seen.live, of) },
        of?.end && acts.pick
          ? (e) => {
              e.stopPropagation();
              acts.pick?.(of.end ?? "", of.conductor);
            }
          : undefined,
      );
  }
  return drawn(mark, 0, "");
}

/** A tint as it is written, or the theme's for its name. */
const tint = (name: string | undefined) => (!name ? "none" : name.startsWith("#") ? name : `var(--tint-${name})`);

type Attributes = Pick<SVGAttributes<SVGElement>, "fill" | "stroke" | "strokeWidth" | "strokeDasharray" | "opacity" | "strokeLinejoin">;

type Data = Record<`data-${string}`, string | number | undefined>;

function drawn(mark: Mark, key: number, state: string, data: Data = {}, click?: (e: React.MouseEvent) => void): ReactNode {
  const className = [mark.part, state].filter(Boolean).join(" ") || undefined;
  switch (mark.kind) {
    case "group":
      return null; // groups are drawn by those who know what they stand for
    case "text":
      return (
        <text
          key={key}
          className={className}
          x={mark.x}
          y={mark.y}
          textAnchor={mark.middle ? "middle" : "start"}
          fontSize={mark.size}
          fontWeight={mark.weight}
        >
          {mark.text}
        </text>
      );
  }
  const unseen = mark.part === "state" || mark.part === "rays";
  // Presentation attributes, which a style sheet overrides where a state is shown.
  const ink: Attributes = unseen
    ? { fill: "none" }
    : {
        fill: tint(mark.fill),
        stroke: tint(mark.stroke),
        strokeWidth: mark.width,
        strokeDasharray: mark.dash?.join(" "),
        opacity: mark.opacity,
        strokeLinejoin: "round",
      };
  const all = { className, ...ink, ...data, onClick: click };
  switch (mark.kind) {
    case "path":
      return <path key={key} d={mark.d} {...all} />;
    case "rect":
      return <rect key={key} x={mark.x} y={mark.y} width={mark.w} height={mark.h} rx={mark.round} {...all} data-box={mark.of?.box} />;
    case "circle":
      return <circle key={key} cx={mark.x} cy={mark.y} r={mark.r} {...all} />;
  }
}

/** How small a drawing may become to be seen whole: on a desk, in a hand. */
const smallest = { desk: 0.66, hand: 0.9 };

/** A picture as large as fits the room that it is in, or enlarged. */
export function Fitted(props: { picture: PictureData; large?: boolean; seen?: Seen; acts?: Acts }) {
  const holder = useRef<HTMLDivElement>(null);
  const [room, setRoom] = useState(0);
  useEffect(() => {
    const parent = holder.current?.parentElement;
    if (!parent) return;
    const watch = new ResizeObserver(() => setRoom(parent.clientWidth));
    watch.observe(parent);
    return () => watch.disconnect();
  }, []);
  const least = room < 700 ? smallest.hand : smallest.desk;
  const scale = props.large ? 1.3 : Math.min(1, Math.max(least, room / props.picture.width));
  return (
    <div ref={holder}>
      <Picture picture={props.picture} seen={props.seen} acts={props.acts} scale={scale} />
    </div>
  );
}
