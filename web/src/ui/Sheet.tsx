import { X } from "lucide-react";
import { Dialog } from "radix-ui";
import type { ReactNode } from "react";
import { Tool } from "./Tool";

/** On a small screen: something that comes from below and covers most of it until it is put away. */
export function Sheet(props: { title: string; close: () => void; foot?: ReactNode; children: ReactNode }) {
  return (
    <Dialog.Root open onOpenChange={(open) => !open && props.close()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-10 bg-black/40" />
        <Dialog.Content
          aria-describedby={undefined}
          onOpenAutoFocus={(e) => {
            e.preventDefault(); // what is read first is the sheet, not the words of its Close button
            if (e.currentTarget instanceof HTMLElement) e.currentTarget.focus();
          }}
          className="fixed inset-x-0 bottom-0 z-20 mx-auto flex max-h-[92dvh] max-w-3xl flex-col border-t-2 border-ink bg-paper"
        >
          <div className="flex items-start gap-2 border-b border-rule pl-4">
            <Dialog.Title className="min-w-0 flex-1 py-2 font-serif text-lg leading-snug font-semibold">{props.title}</Dialog.Title>
            <Dialog.Close asChild>
              <Tool icon={X} label="Close" />
            </Dialog.Close>
          </div>
          <div className="min-h-0 flex-1 overflow-y-auto overscroll-contain px-4 py-3">{props.children}</div>
          {props.foot && <div className="border-t border-rule px-4 py-2">{props.foot}</div>}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
