import { Check, ChevronDown } from "lucide-react";
import { Select } from "radix-ui";
import { nonce } from "./nonce";

/** One of a few, from a list that opens. The label stands before it, or is for readers alone. */
export function Choice(props: {
  label: string;
  quiet?: boolean;
  value: string;
  options: [string, string][];
  set: (value: string) => void;
}) {
  return (
    <label className="inline-flex min-h-11 items-center gap-2">
      <span className={props.quiet ? "sr-only" : "text-(--soft)"}>{props.label}</span>
      <Select.Root value={props.value} onValueChange={props.set}>
        <Select.Trigger
          aria-label={props.label}
          className="inline-flex min-h-11 cursor-pointer items-center gap-2 border border-(--ink) bg-(--sheet) px-3 text-left"
        >
          <Select.Value />
          <Select.Icon>
            <ChevronDown aria-hidden size={16} />
          </Select.Icon>
        </Select.Trigger>
        <Select.Portal>
          <Select.Content
            position="popper"
            sideOffset={4}
            collisionPadding={8}
            className="z-30 max-h-(--radix-select-content-available-height) overflow-hidden border border-(--ink) bg-(--sheet)"
          >
            <Select.Viewport nonce={nonce}>
              {props.options.map(([value, name]) => (
                <Select.Item
                  key={value}
                  value={value}
                  className="flex min-h-11 cursor-pointer items-center gap-2 px-3 outline-none data-highlighted:bg-(--ink) data-highlighted:text-(--paper)"
                >
                  <Select.ItemText>{name}</Select.ItemText>
                  <Select.ItemIndicator>
                    <Check aria-hidden size={16} />
                  </Select.ItemIndicator>
                </Select.Item>
              ))}
            </Select.Viewport>
          </Select.Content>
        </Select.Portal>
      </Select.Root>
    </label>
  );
}
