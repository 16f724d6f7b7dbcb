import { ChevronRight } from "lucide-react";
import { Collapsible } from "radix-ui";
import { useState, type ReactNode } from "react";

/** What is folded away until it is asked for, and printed all the same; open from the start where that is said. A
 * section of the page has a larger title. */
export function Fold(props: { title: ReactNode; section?: boolean; open?: boolean; className?: string; children: ReactNode }) {
  const [asked, ask] = useState<boolean>();
  return (
    <Collapsible.Root open={asked ?? props.open ?? false} onOpenChange={ask} className={props.className}>
      <Collapsible.Trigger className="group flex min-h-11 w-full cursor-pointer items-center gap-2 py-1 text-left">
        <ChevronRight aria-hidden size={16} className="shrink-0 group-data-[state=open]:rotate-90" />
        <span className={props.section ? "font-serif text-lg font-semibold" : undefined}>{props.title}</span>
      </Collapsible.Trigger>
      <Collapsible.Content forceMount className="data-[state=closed]:hidden print:block">
        {props.children}
      </Collapsible.Content>
    </Collapsible.Root>
  );
}
