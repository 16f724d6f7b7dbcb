import { Switch } from "radix-ui";
import type { ReactNode } from "react";

/** Something that is on or off from now on. */
export function Toggle(props: { on: boolean; set: (on: boolean) => void; children: ReactNode }) {
  return (
    <label className="inline-flex min-h-11 cursor-pointer items-center gap-3">
      <Switch.Root
        checked={props.on}
        onCheckedChange={props.set}
        className="inline-flex h-6 w-11 flex-none cursor-pointer items-center border-[1.5px] border-ink bg-sheet p-0.5 data-[state=checked]:bg-ink"
      >
        <Switch.Thumb className="block size-4 bg-ink data-[state=checked]:translate-x-5 data-[state=checked]:bg-paper" />
      </Switch.Root>
      {props.children}
    </label>
  );
}
