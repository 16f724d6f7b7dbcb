import { Slider } from "radix-ui";

/** How much of two things that lie over each other is shown: a slider from the one to the other. */
export function Share(props: { label: string; from: string; to: string; share: number; set: (share: number) => void }) {
  return (
    <span className="inline-flex min-h-11 items-center gap-2 text-sm">
      <span aria-hidden>{props.from}</span>
      <Slider.Root
        className="relative flex h-11 w-32 cursor-pointer touch-none items-center"
        min={0}
        max={100}
        step={5}
        value={[props.share]}
        onValueChange={([next = 0]) => props.set(next)}
      >
        <Slider.Track className="h-px grow bg-ink">
          <Slider.Range className="absolute h-px bg-ink" />
        </Slider.Track>
        <Slider.Thumb aria-label={props.label} className="block h-7 w-3 border border-ink bg-sheet" />
      </Slider.Root>
      <span aria-hidden>{props.to}</span>
    </span>
  );
}
