import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { client, noAnswer, take, takeCircuit, type Circuit, type Edit, type Schemas, type Version } from "./client";

/** What was shown before goes on being shown, marked as not current, while the same of another
 * revision is worked out; never what was of another circuit. */
function ofSame<T>(circuit: number, before: T | undefined, query: { queryKey: readonly unknown[] } | undefined): T | undefined {
  return query?.queryKey[1] === circuit ? before : undefined;
}

export const usePractices = () =>
  useQuery({ queryKey: ["practices"], queryFn: () => take(client.GET("/practices")), staleTime: Infinity });

export const useJobs = () => useQuery({ queryKey: ["jobs"], queryFn: () => take(client.GET("/jobs")) });

export const useJob = (job: number) =>
  useQuery({ queryKey: ["job", job], queryFn: () => take(client.GET("/jobs/{job}", { params: { path: { job } } })) });

export const useCircuit = (circuit: number) =>
  useQuery({
    queryKey: ["circuit", circuit],
    queryFn: () => takeCircuit(client.GET("/circuits/{circuit}", { params: { path: { circuit } } })),
  });

/** The plan of a circuit as it is and for what is wished now. */
export function usePlan(circuit: number, revision: number) {
  const wishes = useWishes(circuit);
  return useQuery({
    queryKey: ["plan", circuit, revision, wishes.data],
    enabled: wishes.data !== undefined,
    queryFn: () => take(client.GET("/circuits/{circuit}/plan", { params: { path: { circuit } } })),
    placeholderData: (before, query) => ofSame(circuit, before, query),
  });
}

export const useOption = (circuit: number, revision: number, option: string | undefined) =>
  useQuery({
    queryKey: ["plan", circuit, revision, "option", option],
    queryFn: () => take(client.GET("/circuits/{circuit}/options/{option}", { params: { path: { circuit, option: option ?? "" } } })),
    enabled: option !== undefined,
    retry: false,
  });

export const useOptionDiagram = (circuit: number, revision: number, of: Version, option: string) =>
  useQuery({
    queryKey: ["plan", circuit, revision, "diagram", of, option],
    queryFn: () =>
      take(client.GET("/circuits/{circuit}/diagram", { params: { path: { circuit }, query: { of, option, compare: true } }, parseAs: "text" })),
    placeholderData: (before, query) => ofSame(circuit, before, query),
  });

export const useDevices = () =>
  useQuery({ queryKey: ["devices"], queryFn: () => take(client.GET("/devices", { params: { query: { practice: "na" } } })) });

export const useWishes = (circuit: number) =>
  useQuery({
    queryKey: ["wishes", circuit],
    queryFn: () => take(client.GET("/circuits/{circuit}/wishes", { params: { path: { circuit } } })),
  });

/** Keeps wishes, and lets the plan be made for them at once. */
export function useWish(circuit: number) {
  const queries = useQueryClient();
  return useMutation({
    scope: { id: `wishes-${circuit}` },
    mutationFn: (body: Schemas["Wishes"]) => take(client.PUT("/circuits/{circuit}/wishes", { params: { path: { circuit } }, body })),
    onSuccess: (next) => {
      queries.setQueryData(["wishes", circuit], next);
      void queries.invalidateQueries({ queryKey: ["plan", circuit] });
    },
  });
}

export type Prefer = "dead" | "trips";

export const useTrace = (circuit: number, revision: number, prefer: Prefer, wanted: boolean) =>
  useQuery({
    queryKey: ["trace", circuit, revision, prefer],
    queryFn: ({ signal }) => take(client.GET("/circuits/{circuit}/trace", { params: { path: { circuit }, query: { prefer } }, signal })),
    enabled: wanted,
    staleTime: Infinity, // a revision never changes
    placeholderData: (before, query) => ofSame(circuit, before, query),
    retry: false,
  });

export const useAhead = (circuit: number, revision: number, prefer: Prefer, wanted: boolean) =>
  useQuery({
    queryKey: ["ahead", circuit, revision, prefer],
    queryFn: ({ signal }) => take(client.GET("/circuits/{circuit}/trace/ahead", { params: { path: { circuit }, query: { prefer } }, signal })),
    enabled: wanted,
    staleTime: Infinity,
    retry: false,
  });

export const useTree = (circuit: number, revision: number, prefer: Prefer, wanted: boolean) =>
  useQuery({
    queryKey: ["tree", circuit, revision, prefer],
    queryFn: ({ signal }) => take(client.GET("/circuits/{circuit}/trace/tree", { params: { path: { circuit }, query: { prefer } }, signal })),
    enabled: wanted,
    staleTime: Infinity,
    retry: false,
  });

export const useDiagram = (circuit: number, revision: number, of: Version, compare: boolean) =>
  useQuery({
    queryKey: ["diagram", circuit, revision, of, compare],
    queryFn: () =>
      take(client.GET("/circuits/{circuit}/diagram", { params: { path: { circuit }, query: { of, compare } }, parseAs: "text" })),
    placeholderData: (before, query) => ofSame(circuit, before, query),
  });

export const useFront = (circuit: number, revision: number, box: string) =>
  useQuery({
    queryKey: ["front", circuit, revision, box],
    queryFn: () =>
      take(client.GET("/circuits/{circuit}/diagram", { params: { path: { circuit }, query: { of: "found", box } }, parseAs: "text" })),
    placeholderData: (before, query) => ofSame(circuit, before, query),
  });

/** A drawing of another kind: a box, one line, or what changes. */
export const useDrawing = (circuit: number, revision: number, query: { of: Version; box?: string; view?: "wiring" | "line" | "difference"; compare?: boolean }) =>
  useQuery({
    queryKey: ["diagram", circuit, revision, query],
    queryFn: () => take(client.GET("/circuits/{circuit}/diagram", { params: { path: { circuit }, query }, parseAs: "text" })),
    placeholderData: (before, query) => ofSame(circuit, before, query),
  });

/** The steps of the chosen plan, or the way back after so many of them. */
export const useProcedure = (circuit: number, revision: number, back?: number) =>
  useQuery({
    queryKey: ["procedure", circuit, revision, back],
    queryFn: () => take(client.GET("/circuits/{circuit}/procedure", { params: { path: { circuit }, query: { back } } })),
    placeholderData: (before, query) => ofSame(circuit, before, query),
    staleTime: Infinity,
  });

export const usePress = (circuit: number) =>
  useMutation({
    mutationFn: (body: Schemas["PressRequest"]) =>
      take(client.POST("/circuits/{circuit}/press", { params: { path: { circuit } }, body })),
  });

/** What a person does to a circuit; each is made on the revision that they saw. */
export type Change =
  | { do: "edit"; edit: Edit }
  | { do: "undo" }
  | { do: "redo" }
  | { do: "choose"; option: string }
  | { do: "record" };

export function useChange(circuit: number) {
  const queries = useQueryClient();
  return useMutation({
    scope: { id: `circuit-${circuit}` }, // one after the other: a double press is two presses
    retry: (_, error) => noAnswer(error), // it is made on a revision, so it cannot be made twice
    retryDelay: 1000,
    mutationFn: (change: Change) => {
      const base = queries.getQueryData<Circuit>(["circuit", circuit])?.revision ?? 0;
      const params = { path: { circuit } };
      switch (change.do) {
        case "edit":
          return takeCircuit(client.POST("/circuits/{circuit}/edits", { params, body: { base, edit: change.edit } }));
        case "choose":
          return takeCircuit(client.POST("/circuits/{circuit}/choice", { params, body: { base, option: change.option } }));
        case "record":
          return takeCircuit(client.POST("/circuits/{circuit}/record", { params, body: { base } }));
        case "undo":
          return takeCircuit(client.POST("/circuits/{circuit}/undo", { params, body: { base } }));
        case "redo":
          return takeCircuit(client.POST("/circuits/{circuit}/redo", { params, body: { base } }));
      }
    },
    onSuccess: (next) => {
      queries.setQueryData(["circuit", circuit], next);
      void queries.invalidateQueries({ queryKey: ["job", next.job] });
    },
  });
}
