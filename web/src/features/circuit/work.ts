import { createContext, useContext } from "react";
import type { Circuit, CircuitFile, Schemas } from "../../api/client";
import type { Change } from "../../api/queries";

/** What every stage of one circuit's screen works with. */
export type Work = {
  circuit: Circuit;
  practice: Schemas["Practice"] | undefined;
  box: string | undefined;
  setBox: (box: string) => void;
  /** Puts where one is into the address; what is empty is taken out of it. */
  place: (at: Record<string, string | undefined>) => void;
  /** Ends that a finding or the drawing points at. */
  pointed: string[];
  /** Shows ends in their box, in the drawing and in the findings; and puts more of where one is into the address. */
  point: (ends: string[], at?: Record<string, string | undefined>) => void;
  change: (change: Change, then?: (next: Circuit) => void) => void;
  busy: boolean;
  /** The practice's word for a canonical name. */
  word: (name: string) => string;
};

export const WorkContext = createContext<Work | null>(null);

export function useWork(): Work {
  const work = useContext(WorkContext);
  if (!work) throw new Error("used outside a circuit's screen");
  return work;
}

/** How a box is called. */
export function boxName(circuit: Circuit, id: string): string {
  return circuit.reading.names.boxes[id] ?? "";
}

/** What everything in a document is called: as found, or as the chosen plan has it. */
export const namesIn = (circuit: Circuit, document: CircuitFile) =>
  circuit.choice?.document === document ? circuit.choice.names : circuit.reading.names;

/** Whether a reference names a core of a cable; else it is a terminal of a device. */
export const isCore = (document: CircuitFile, ref: string) => document.cables.some((k) => ref.startsWith(`${k.id}.`));
