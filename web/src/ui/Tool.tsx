import type { LucideIcon } from "lucide-react";
import type { ComponentProps } from "react";
import { Hint } from "./Hint";
import { look } from "./look";

/** A button that is an icon alone: its label is read aloud, and shown when it is pointed at. `hint` says more, or shorter. */
export function Tool({
  icon: Icon,
  label,
  hint,
  className = "",
  ...button
}: { icon: LucideIcon; label: string; hint?: string } & ComponentProps<"button">) {
  return (
    <Hint text={hint ?? label}>
      <button type="button" className={`${look.tool} ${className}`} aria-label={label} {...button}>
        <Icon aria-hidden size={18} />
      </button>
    </Hint>
  );
}
