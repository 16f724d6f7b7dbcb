import { Check, ChevronDown } from "lucide-react";
import { Select } from "radix-ui";
import { nonce } from "./nonce";

/** Stands for the value "" in the list, which keeps that for nothing chosen. */
const empty = "-";

/** One of a list that opens. The label stands before it, above it, or is for readers alone; a hint stands where
 * nothing is chosen. */
export function Choice(props: {
  label: string;
  quiet?: boolean;
  above?: boolean;
  hint?: string;
  disabled?: boolean;
  value: string;
  options: [string, string][];
  set: (value: string) => void;
}) {
  const inside = (value: string) => (value === "" && props.options.some(([v]) => v === "") ? empty : value);
  return (
    <label
      className={props.above ? "flex min-w-36 flex-[1_1_10rem] flex-col gap-0.5" : "inline-flex min-h-11 max-w-full items-center gap-2"}
    >
      <span className={props.quiet ? "sr-only" : props.above ? "text-sm text-soft" : "text-soft"}>{props.label}</span>
      <Select.Root value={inside(props.value)} disabled={props.disabled} onValueChange={(value) => props.set(value === empty ? "" : value)}>
        <Select.Trigger
          aria-label={props.label}
          className="inline-flex min-h-11 max-w-full min-w-0 cursor-pointer items-center justify-between gap-2 border border-ink bg-sheet px-3 text-left disabled:cursor-default disabled:border-dashed disabled:bg-transparent disabled:text-soft data-placeholder:text-soft"
        >
          <span className="min-w-0 truncate">
            <Select.Value placeholder={props.hint ?? "choose …"} />
          </span>
          <Select.Icon>
            <ChevronDown aria-hidden size={16} />
          </Select.Icon>
        </Select.Trigger>
        <Select.Portal>
          <Select.Content
            position="popper"
            sideOffset={4}
            collisionPadding={8}
            className="z-40 max-w-[94vw] max-h-(--radix-select-content-available-height) overflow-hidden border border-ink bg-sheet"
          >
            <Select.Viewport nonce={nonce}>
              {props.options.map(([value, name]) => (
                <Select.Item
                  key={value}
                  value={inside(value)}
                  className="flex min-h-11 cursor-pointer items-center gap-2 px-3 outline-none data-highlighted:bg-ink data-highlighted:text-paper"
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
