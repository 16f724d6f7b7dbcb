import { RadioGroup } from "radix-ui";

/** One of very few in words, each with its mark. */
export function OneOf(props: { label: string; value: string; options: [string, string][]; set: (value: string) => void }) {
  return (
    <RadioGroup.Root value={props.value} onValueChange={props.set} aria-label={props.label} className="flex flex-wrap gap-x-4">
      {props.options.map(([value, name]) => (
        <label key={value} className="inline-flex min-h-11 cursor-pointer items-center gap-2">
          <RadioGroup.Item
            value={value}
            className="inline-flex size-5 flex-none cursor-pointer items-center justify-center rounded-full border-[1.5px] border-ink bg-sheet"
          >
            <RadioGroup.Indicator className="block size-2.5 rounded-full bg-ink" />
          </RadioGroup.Item>
          {name}
        </label>
      ))}
    </RadioGroup.Root>
  );
}
