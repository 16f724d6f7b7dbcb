import { useEffect, useRef, useState } from "react";
import type { Entry } from "../../api/fitting";
import { look } from "../../ui/look";
import { OneOf } from "../../ui/OneOf";
import { useArriving } from "../../ui/useArriving";
import { useKeys } from "../../ui/useKeys";
import { BoxFront } from "../wire/BoxFront";
import { useWork } from "../circuit/work";
import type { Proof } from "./ProveStage";

const does: Record<string, string> = {
  changes: "changes",
  stays: "stays as it is",
  depends: "may change or stay: that depends on how switches stood",
};

/** The next press, what it should do, and what it did. */
export function PressCard(props: { proof: Proof; busy: boolean; pictured: boolean; anew: () => void; add: (entry: Entry) => void }) {
  const { proof } = props;
  const { setBox, word } = useWork();
  const arriving = useArriving();
  const busy = props.busy || arriving;
  const press = proof.at >= 0 ? proof.presses[proof.at] : undefined;
  const card = useRef<HTMLElement>(null);
  const whole = proof.at >= proof.presses.length;
  useEffect(() => {
    if (proof.at >= 0) card.current?.focus({ preventScroll: true });
    if (press) setBox(press.box);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- when the card comes, and no other time
  }, []);
  const [lamps, setLamps] = useState<Record<string, string>>({});
  const all = proof.lamps.every((l) => lamps[l.id]);
  const { shows, otherwise } = proof;
  const see = (now: Record<string, string>) => props.add({ kind: "press", ...(press ? { press: press.press } : {}), lamps: now });
  const active = !busy && proof.right && press !== undefined;
  useKeys({ y: active && shows ? () => see(shows) : undefined, n: active && otherwise ? () => see(otherwise) : undefined });
  return (
    <section
      ref={card}
      tabIndex={-1}
      aria-label="The next press"
      className="border-[3px] border-double border-ink bg-sheet p-4 outline-none"
    >
      <p className="border-b border-rule pb-1 font-serif font-semibold">
        {whole
          ? proof.right
            ? "Proved"
            : "Pressed through"
          : proof.at < 0
            ? "The start"
            : `Press ${proof.at + 1} of ${proof.presses.length}`}
      </p>
      {proof.at < 0 && (
        <>
          <p className="py-2 text-xl leading-snug font-semibold">
            {proof.switchOff
              ? "Switch the light off at any place, then look again: how do the lamps look now?"
              : proof.planned
                ? "With the power on, every device awake and the light switched off: how do the lamps look now?"
                : "With the power on: how do the lamps look now?"}
          </p>
          {proof.switchOff && <p>Nothing is wrong so far. A device keeps its state, and the presses count from off.</p>}
          <p className="text-soft">
            {proof.presses.length === 1 ? "One press shows" : `${proof.presses.length} presses show`} {proof.mistakes.revealed} of{" "}
            {proof.mistakes.all} single mistakes, from whatever way the switches stand; {proof.mistakes.meter} take a meter,{" "}
            {proof.mistakes.sameAsRight} are the same as right.
          </p>
        </>
      )}
      {proof.power === "off" && !whole && (
        <p className="border-l-6 border-ink pl-3">
          The log says that the {word("breaker")} is off. Cap bare ends, keep people away from open boxes, then switch it on.
        </p>
      )}
      {press && proof.right && (
        <>
          <p className="py-2 text-xl leading-snug font-semibold">
            Press {press.name}
            {press.name === press.where ? "" : `, ${press.where}`}
          </p>
          <ul>
            {press.expect.map((x) => (
              <li key={x.lamp}>
                {x.name} {does[x.does] ?? x.does}.
              </li>
            ))}
          </ul>
        </>
      )}
      {press && proof.right && props.pictured && proof.planned && (
        <BoxFront box={press.box} of="planned" label={`${press.where}, from the front`} />
      )}
      {whole && proof.right && (
        <p role="status" className="py-2 text-xl leading-snug font-semibold">
          Tested: every switch works as planned.
        </p>
      )}
      {!whole && proof.right && shows && (
        <div className="grid grid-cols-2 gap-2 py-2">
          <button type="button" className={`${look.strong} min-h-14 justify-center text-lg`} disabled={busy} onClick={() => see(shows)}>
            <kbd aria-hidden>Y</kbd> It did
          </button>
          {otherwise && (
            <button
              type="button"
              className={`${look.button} min-h-14 justify-center text-lg`}
              disabled={busy}
              onClick={() => see(otherwise)}
            >
              <kbd aria-hidden>N</kbd> It did not
            </button>
          )}
        </div>
      )}
      {!whole && proof.right && (!shows || !otherwise || proof.at < 0) && (
        <div className="grid gap-1 py-2">
          {proof.lamps.map((l) => (
            <div key={l.id} className="flex flex-wrap items-center gap-x-4">
              <span className="min-w-40 font-semibold">{l.text}</span>
              <OneOf
                label={`How ${l.text} looks`}
                value={lamps[l.id] ?? ""}
                options={[
                  ["lit", "lit"],
                  ["dark", "dark"],
                  ["trip", `the ${word("breaker")} went`],
                ]}
                set={(how) => setLamps((now) => ({ ...now, [l.id]: how }))}
              />
            </div>
          ))}
          <button type="button" className={`${look.strong} justify-self-start`} disabled={busy || !all} onClick={() => see(lamps)}>
            That is how it looks
          </button>
        </div>
      )}
      {proof.at >= 0 && (
        <div className={`${look.row} pt-2`}>
          {press && proof.right && (
            <button
              type="button"
              className={look.button}
              disabled={busy}
              onClick={() => see(Object.fromEntries(proof.lamps.map((l) => [l.id, "trip"])))}
            >
              The {word("breaker")} went
            </button>
          )}
          <button type="button" className={look.button} disabled={busy} onClick={props.anew}>
            Begin again
          </button>
        </div>
      )}
    </section>
  );
}
