import type { Shown } from "../../api/rehearsal";
import { look } from "../../ui/look";

type Gesture = Shown["places"][number]["gestures"][number];

/** The two halves of a paddle, by what a tap there is called. */
const halves = ["up1", "down1"];

/** One place as a paddle or a button, with what else can be done there and what it says of itself; by its number a key
 * presses there. A dashed line leads to what its messages go over. */
export function Place(props: {
  place: Shown["places"][number];
  number: number;
  speaks: boolean;
  busy: boolean;
  act: (gesture: Gesture) => void;
}) {
  const { place } = props;
  const tapped = place.gestures.filter((g) => halves.includes(g.gesture));
  const faces = tapped.length === 2 ? tapped : place.gestures.slice(0, 1);
  const more = place.gestures.filter((g) => !faces.includes(g));
  const press = (g: Gesture, style: string) => (
    <button
      key={g.gesture}
      type="button"
      className={style}
      disabled={props.busy || !place.awake}
      aria-label={`${g.text} at ${place.name}`}
      onClick={() => props.act(g)}
    >
      {g.text}
    </button>
  );
  return (
    <li className="flex flex-col items-center text-center">
      <span aria-hidden className={`h-6 ${props.speaks ? "border-l-2 border-dashed border-soft" : ""}`} />
      <div className="w-24 divide-y-2 divide-ink border-2 border-ink bg-paper">
        {faces.map((g) =>
          press(
            g,
            "flex h-14 w-full cursor-pointer items-center justify-center px-1 leading-tight font-[550] not-disabled:hover:bg-room not-disabled:active:bg-ink not-disabled:active:text-paper disabled:cursor-default disabled:text-soft",
          ),
        )}
        <span aria-hidden className={`block h-2 ${place.switch === "on" ? "bg-ink" : "bg-sheet"}`} />
      </div>
      <h2 className="pt-2 text-base">
        {props.number < 10 && <kbd aria-hidden>{props.number}</kbd>} {place.name}
      </h2>
      <p role="status" className={place.astray ? "border-2 border-ink px-2 font-semibold" : "text-soft"}>
        {!place.awake ? "without power" : place.switch === "" ? "has no switch of its own" : `says ${place.switch}`}
        {place.level ? `, ${place.level} %` : ""}
        {place.astray ? ": out of step with the light" : ""}
      </p>
      {more.length > 0 && (
        <div className={`${look.row} justify-center pt-2`}>{more.map((g) => press(g, `${look.button} px-2.5! text-[0.92rem]`))}</div>
      )}
    </li>
  );
}
