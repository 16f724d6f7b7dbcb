import { look } from "../../ui/look";

/** A number of seconds, or of what else is not below nought. */
export function Seconds(props: { label: string; value: number; most?: number; set: (to: number) => void }) {
  return (
    <label className={look.field}>
      <span>{props.label}</span>
      <input
        type="number"
        step="any"
        min={0}
        max={props.most ?? 30}
        value={props.value}
        onChange={(e) => props.set(Number(e.target.value))}
      />
    </label>
  );
}
