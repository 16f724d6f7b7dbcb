import { Keyboard } from "lucide-react";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { Toggle } from "./Toggle";
import { setSettings, useSettings } from "./settings";
import { useKeys } from "./useKeys";
import { look } from "./look";
import { Tool } from "./Tool";

type Keys = [string, string][];

/** By stage, each key with one meaning everywhere. */
const stages: [string, Keys][] = [
  [
    "Everywhere",
    [
      ["Ctrl Z; Ctrl Y or Ctrl Shift Z", "Undo; redo. In Fit and Prove Ctrl Z takes the last entry of the log back"],
      ["S, T, C, R, W, F, P, I, O", "Survey, Trace, Choose, Rehearse, Wire, Fit, Prove, Use, Record"],
      ["[ and ]", "Box before, box after"],
      ["1 … 9", "Flip the first, second, … switch"],
      ["+, −, 0, arrows", "On the drawing: larger, smaller, all of it, move it"],
      ["?", "This list"],
    ],
  ],
  [
    "Survey",
    [
      ["J", "Join what is picked under one connector or screw"],
      ["L", "Lift what is picked"],
      ["Esc", "Pick nothing"],
      ["1 … 9 on a core", "Put it under the first, second, … screw of the box"],
      ["A", "Add a box"],
      ["E", "Add a box that is the same as the last one"],
    ],
  ],
  [
    "Trace",
    [
      ["Y, N, U", "First answer, second answer, cannot tell"],
      ["H", "Ask the hidden house"],
    ],
  ],
  ["Choose", [["arrows on the slider", "Today’s wiring over the one to come"]]],
  ["Wire", [[". and ,", "Next step, step before"]]],
  [
    "Fit",
    [
      ["D", "Done"],
      ["A", "All lines of this stay done"],
      [". and ,", "Next step, step before"],
    ],
  ],
  ["Prove", [["Y, N", "As expected, not as expected"]]],
  [
    "Rehearse",
    [
      ["1 … 9", "Press at the first, second, … place"],
      [". and ,", "Let the next message arrive, step back"],
    ],
  ],
];

export function Shortcuts() {
  const [open, setOpen] = useState(false);
  const { letters } = useSettings();
  useKeys({ "?": () => setOpen((x) => !x) });
  return (
    <Dialog.Root open={open} onOpenChange={setOpen} modal={false}>
      <Dialog.Trigger asChild>
        <Tool icon={Keyboard} label="Keyboard shortcuts" className="max-sm:hidden" />
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Content className={`${look.dialog} w-80`} aria-describedby={undefined}>
          <Dialog.Title className="mb-2">Keyboard</Dialog.Title>
          <Toggle on={letters} set={(on) => setSettings({ letters: on })}>
            Single keys act
          </Toggle>
          {stages.map(([stage, keys]) => (
            <section key={stage}>
              <h3>{stage}</h3>
              <dl className="[&_dt]:flex-[0_0_7rem] [&_dt]:font-semibold [&>div]:flex [&>div]:gap-3 [&>div]:border-t [&>div]:border-rule [&>div]:py-1">
                {keys.map(([key, what]) => (
                  <div key={key}>
                    <dt>{key}</dt>
                    <dd>{what}</dd>
                  </div>
                ))}
              </dl>
            </section>
          ))}
          <Dialog.Close className={`${look.button} mt-3`}>Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
