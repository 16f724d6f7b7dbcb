import type { ReactNode } from "react";

/** What stands in the middle of tracing: one test, a contradiction, what is left. It is read at arm's length. */
export function Card(props: { label: string; alert?: boolean; arriving?: boolean; children: ReactNode }) {
  return (
    <section
      aria-label={props.label}
      role={props.alert ? "alert" : undefined}
      data-arriving={props.arriving || undefined}
      className="mb-5 space-y-3 border-[3px] border-double border-ink bg-sheet px-[1.1rem] pt-3.5 pb-[1.1rem]"
    >
      {props.children}
    </section>
  );
}

/** What is read with an instrument in the hand. */
export function Large(props: { children: ReactNode }) {
  return <p className="text-xl leading-snug font-semibold wrap-anywhere">{props.children}</p>;
}

/** Something that can hurt, with its sign before it. */
export function Warning(props: { alert?: boolean; children: ReactNode }) {
  return (
    <p role={props.alert ? "alert" : undefined} className="flex gap-3 border-l-6 border-ink py-1 pl-3 font-semibold">
      {props.children}
    </p>
  );
}
