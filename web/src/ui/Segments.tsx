import { RadioGroup } from "radix-ui";
import type { ReactNode } from "react";

/** Stands for the value "" in the group, which keeps that for nothing chosen. */
const empty = "-";

/** One of very few, all of them in sight; arrow keys choose. The label stands before them, or is for readers alone. */
export function Segments(props: {
  label: string;
  quiet?: boolean;
  value: string;
  options: [value: string, name: ReactNode][];
  set: (value: string) => void;
}) {
  return (
    <span className="inline-flex min-h-11 flex-wrap items-center gap-2">
      <span className={props.quiet ? "sr-only" : "text-soft"}>{props.label}</span>
      <RadioGroup.Root
        aria-label={props.label}
        value={props.value || empty}
        onValueChange={(to) => props.set(to === empty ? "" : to)}
        orientation="horizontal"
        className="inline-flex border border-ink"
      >
        {props.options.map(([value, name]) => (
          <RadioGroup.Item
            key={value}
            value={value || empty}
            className="inline-flex min-h-11 min-w-11 cursor-pointer items-center justify-center px-2 not-first:border-l not-first:border-rule data-[state=checked]:bg-ink data-[state=checked]:text-paper"
          >
            {name}
          </RadioGroup.Item>
        ))}
      </RadioGroup.Root>
    </span>
  );
}
