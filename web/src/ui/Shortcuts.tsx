import { Keyboard } from "lucide-react";
import { Popover } from "radix-ui";
import { useState } from "react";
import { useKeys } from "./useKeys";

const keys: [string, string][] = [
  ["1 … 9", "Flip the first, second, … switch"],
  ["[ and ]", "Box before, box after"],
  ["J", "Join what is picked under one connector or screw"],
  ["L", "Lift what is picked"],
  ["Esc", "Pick nothing"],
  ["A", "Add a box"],
  ["S, C, W", "Survey, Choose, Wire"],
  ["Ctrl Z, Ctrl Shift Z", "Undo, redo"],
  ["?", "This list"],
];

export function Shortcuts() {
  const [open, setOpen] = useState(false);
  useKeys({ "?": () => setOpen((x) => !x) });
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="tool" aria-label="Keyboard shortcuts">
        <Keyboard aria-hidden size={18} />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content className="panel w-80" align="end" sideOffset={8} aria-label="Keyboard shortcuts">
          <h2 className="panel-title">Keyboard</h2>
          <dl className="keys">
            {keys.map(([key, what]) => (
              <div key={key}>
                <dt>{key}</dt>
                <dd>{what}</dd>
              </div>
            ))}
          </dl>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
