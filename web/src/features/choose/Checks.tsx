import { Check, CircleHelp, Minus, X } from "lucide-react";
import type { Option } from "../../api/client";

/** What was proved of an option; what nobody can tell from the record is said to be so. */
export function Checks({ option }: { option: Option }) {
  return (
    <ul>
      {option.checks?.map((c) => (
        <li key={c.code} className="flex gap-2 py-1 [&_svg]:mt-1 [&_svg]:shrink-0">
          {c.unknown ? (
            <CircleHelp aria-label="not known" size={16} />
          ) : c.asFound ? (
            <Minus aria-label="as before" size={16} />
          ) : c.passed ? (
            <Check aria-label="proved" size={16} />
          ) : (
            <X aria-label="failed" size={16} />
          )}{" "}
          {c.text}
        </li>
      ))}
    </ul>
  );
}
