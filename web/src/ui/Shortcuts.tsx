import { Keyboard } from "lucide-react";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { useKeys } from "./useKeys";

const keys: [string, string][] = [
  ["1 … 9", "Flip the first, second, … switch"],
  ["[ and ]", "Box before, box after"],
  ["J", "Join what is picked under one connector or screw"],
  ["L", "Lift what is picked"],
  ["Esc", "Pick nothing"],
  ["1 … 9 on a core", "Put it under the first, second, … screw of the box"],
  ["A", "Add a box"],
  ["E", "Add a box that is the same as the last one"],
  ["Y, N, U", "Trace: first answer, second answer, cannot tell"],
  ["H", "Trace: ask the hidden house"],
  ["N, P", "Wire: next step, step before"],
  ["S, T, C, W", "Survey, Trace, Choose, Wire"],
  ["Ctrl Z; Ctrl Y or Ctrl Shift Z", "Undo; redo"],
  ["+, −, 0, arrows", "On the drawing: larger, smaller, all of it, move it"],
  ["?", "This list"],
];

export function Shortcuts() {
  const [open, setOpen] = useState(false);
  useKeys({ "?": () => setOpen((x) => !x) });
  return (
    <Dialog.Root open={open} onOpenChange={setOpen} modal={false}>
      <Dialog.Trigger className="tool keyboard" aria-label="Keyboard shortcuts">
        <Keyboard aria-hidden size={18} />
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Content className="panel dialog w-80" aria-describedby={undefined}>
          <Dialog.Title className="panel-title">Keyboard</Dialog.Title>
          <dl className="keys">
            {keys.map(([key, what]) => (
              <div key={key}>
                <dt>{key}</dt>
                <dd>{what}</dd>
              </div>
            ))}
          </dl>
          <Dialog.Close className="button mt-3">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
