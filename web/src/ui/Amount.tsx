import { look } from "./look";

/** A number with its label; not below nought where no least is named. */
export function Amount(props: { label: string; value: number; least?: number; most?: number; set: (to: number) => void }) {
  return (
    <label className={look.field}>
      <span>{props.label}</span>
      <input
        type="number"
        step="any"
        min={props.least ?? 0}
        max={props.most}
        value={props.value}
        onChange={(e) => props.set(Number(e.target.value))}
      />
    </label>
  );
}
