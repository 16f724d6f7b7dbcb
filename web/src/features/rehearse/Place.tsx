import type { Shown } from "../../api/rehearsal";
import { look } from "../../ui/look";

/** One place as a paddle: what can be done there, and what it says of itself; by its number a key presses there. */
export function Place(props: {
  place: Shown["places"][number];
  number: number;
  busy: boolean;
  act: (gesture: Shown["places"][number]["gestures"][number]) => void;
}) {
  const { place } = props;
  return (
    <li className="grid gap-2 border-2 border-ink bg-sheet p-3">
      <h2 className="text-base">
        {props.number < 10 && <kbd aria-hidden>{props.number}</kbd>} {place.name}
      </h2>
      <p role="status" className={place.astray ? "border-l-6 border-ink pl-2 font-semibold" : "text-soft"}>
        {!place.awake ? "without power" : place.switch === "" ? "has no switch of its own" : `says ${place.switch}`}
        {place.level ? `, ${place.level} %` : ""}
        {place.astray ? ": out of step with the light" : ""}
      </p>
      <div className={look.row}>
        {place.gestures.map((g) => (
          <button
            key={g.gesture}
            type="button"
            className={look.button}
            disabled={props.busy || !place.awake}
            aria-label={`${g.text} at ${place.name}`}
            onClick={() => props.act(g)}
          >
            {g.text}
          </button>
        ))}
      </div>
    </li>
  );
}
