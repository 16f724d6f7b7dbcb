import { Tooltip } from "radix-ui";
import type { ReactNode } from "react";

/** What a button with an icon alone does, in words, when it is pointed at or has the focus. */
export function Hint(props: { text: string; children: ReactNode }) {
  return (
    <Tooltip.Root>
      <Tooltip.Trigger asChild data-hint>
        {props.children}
      </Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content className="z-20 max-w-64 bg-ink px-2 py-1 text-sm text-paper" sideOffset={4} collisionPadding={8}>
          {props.text}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}
