import { Trash2 } from "lucide-react";
import { Popover } from "radix-ui";
import { look } from "./look";
import { Tool } from "./Tool";

/** A button that removes something after a second look. */
export function Remove(props: { what: string; warning: string; onRemove: () => void }) {
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Tool icon={Trash2} label={`Remove ${props.what}`} />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content className={`${look.popover} w-72`} align="end" sideOffset={6} aria-label={`Remove ${props.what}?`}>
          <p className="mb-3">{props.warning}</p>
          <div className="flex gap-2">
            <Popover.Close className={look.strong} onClick={props.onRemove}>
              Remove
            </Popover.Close>
            <Popover.Close className={look.button}>Keep</Popover.Close>
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
