import { ToggleGroup } from "radix-ui";

/** One of very few, all of them in sight. */
export function Segments(props: { label: string; value: string; options: [string, string][]; set: (value: string) => void }) {
  return (
    <span className="inline-flex min-h-11 flex-wrap items-center gap-2">
      <span className="text-(--soft)">{props.label}</span>
      <ToggleGroup.Root
        type="single"
        aria-label={props.label}
        value={props.value}
        onValueChange={(to) => to && props.set(to)}
        className="inline-flex border border-(--ink)"
      >
        {props.options.map(([value, name]) => (
          <ToggleGroup.Item
            key={value}
            value={value}
            className="inline-flex min-h-11 min-w-11 cursor-pointer items-center justify-center px-2 not-first:border-l not-first:border-(--rule) data-[state=on]:bg-(--ink) data-[state=on]:text-(--paper)"
          >
            {name}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
    </span>
  );
}
