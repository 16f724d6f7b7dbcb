import type { ReactNode } from "react";

/** Two drawings beside each other where there is room, or one above the other; each is a figure. */
export function Pair(props: { stacked?: boolean; padded?: boolean; children: ReactNode }) {
  const columns = props.stacked ? "grid-cols-1" : "grid-cols-[repeat(auto-fit,minmax(min(30rem,100%),1fr))]";
  return (
    <div
      className={`grid gap-4 [&_.sheet]:border [&_.sheet]:border-rule [&_figcaption]:font-serif [&_figcaption]:font-semibold [&>figure]:min-w-0 ${columns} ${props.padded ? "px-6 py-2.5 max-sm:px-3.5" : ""}`}
    >
      {props.children}
    </div>
  );
}
