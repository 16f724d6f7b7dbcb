import { Toast } from "radix-ui";
import { createContext, useCallback, useContext, useState, type ReactNode } from "react";

/** Something that was done, and how it is undone. */
type Said = { text: string; undo?: () => void };

const SayContext = createContext<(said: Said | undefined) => void>(() => undefined);

/** Says at the edge of the screen what was done, for a while, with a way back; undefined takes away what stands there. */
export const useToast = () => useContext(SayContext);

/** For how long it is said, in milliseconds: one who reads slowly has time to take it back. */
const shownFor = 10_000;

/** Holds what was done last; what comes next takes its place. */
export function Toasts(props: { children: ReactNode }) {
  const [last, setLast] = useState<Said & { number: number }>();
  const say = useCallback((said: Said | undefined) => setLast((before) => said && { ...said, number: (before?.number ?? 0) + 1 }), []);
  return (
    <SayContext.Provider value={say}>
      <Toast.Provider duration={shownFor} label="What was done">
        {props.children}
        {last && (
          <Toast.Root
            key={last.number}
            className="flex items-center gap-3 border-2 border-ink bg-sheet py-1 pr-1 pl-4 data-[state=closed]:hidden"
          >
            <Toast.Description className="min-w-0 flex-1 py-2">{last.text}</Toast.Description>
            {last.undo && (
              <Toast.Action
                altText="Undo it"
                className="min-h-11 cursor-pointer px-3 font-semibold underline underline-offset-3"
                onClick={last.undo}
              >
                Undo
              </Toast.Action>
            )}
            <Toast.Close className="min-h-11 min-w-11 cursor-pointer" aria-label="Close">
              <span aria-hidden>×</span>
            </Toast.Close>
          </Toast.Root>
        )}
        <Toast.Viewport className="fixed inset-x-0 bottom-16 z-50 mx-auto w-[min(32rem,calc(100vw-1.5rem))] lg:bottom-6" />
      </Toast.Provider>
    </SayContext.Provider>
  );
}
