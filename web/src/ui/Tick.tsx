import { Check } from "lucide-react";
import { Checkbox } from "radix-ui";
import type { ReactNode } from "react";

/** Something that is so or not. */
export function Tick(props: { checked: boolean; disabled?: boolean; set: (checked: boolean) => void; children: ReactNode }) {
  return (
    <label className="inline-flex min-h-11 min-w-8 cursor-pointer items-center gap-2">
      <Checkbox.Root
        checked={props.checked}
        disabled={props.disabled}
        onCheckedChange={(now) => props.set(now === true)}
        className="inline-flex size-5 flex-none cursor-pointer items-center justify-center border-[1.5px] border-ink bg-sheet data-[state=checked]:bg-ink data-[state=checked]:text-paper"
      >
        <Checkbox.Indicator>
          <Check aria-hidden size={16} strokeWidth={3} />
        </Checkbox.Indicator>
      </Checkbox.Root>
      {props.children}
    </label>
  );
}
