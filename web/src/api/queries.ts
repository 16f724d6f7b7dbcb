import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { client, noAnswer, take, type Circuit, type Edit, type Schemas, type Version } from "./client";
import { keys } from "./keys";

/** What was shown before goes on being shown, marked as not current, while the same of another
 * revision is worked out; never what was of another circuit. */
function ofSame<T>(circuit: string, before: T | undefined, query: { queryKey: readonly unknown[] } | undefined): T | undefined {
  return query?.queryKey[1] === circuit ? before : undefined;
}

export const usePractices = () =>
  useQuery({ queryKey: keys.practices(), queryFn: ({ signal }) => take(client.GET("/practices", { signal })), staleTime: Infinity });

export const useJobs = () => useQuery({ queryKey: keys.jobs(), queryFn: ({ signal }) => take(client.GET("/jobs", { signal })) });

export const useJob = (job: string) =>
  useQuery({ queryKey: keys.job(job), queryFn: ({ signal }) => take(client.GET("/jobs/{job}", { params: { path: { job } }, signal })) });

/** Plans for all circuits of a job together; standing says how the circuits stand. */
export const useTogether = (job: string, standing: string, by: Schemas["JobPlan"]["by"], rate: number, wanted: boolean) =>
  useQuery({
    queryKey: keys.together(job, standing, by, rate),
    enabled: wanted,
    queryFn: ({ signal }) => take(client.GET("/jobs/{job}/together", { params: { path: { job }, query: { by, rate } }, signal })),
    placeholderData: (before, query) => ofSame(job, before, query),
  });

export const useCircuit = (circuit: string) =>
  useQuery({
    queryKey: keys.circuit(circuit),
    queryFn: ({ signal }) => take(client.GET("/circuits/{circuit}", { params: { path: { circuit } }, signal })),
  });

/** The plan of a circuit as it is and for what is wished now. */
export function usePlan(circuit: string, revision: string, wanted = true) {
  const wishes = useWishes(circuit, wanted);
  return useQuery({
    queryKey: keys.plan(circuit, revision, wishes.data),
    enabled: wanted && wishes.data !== undefined,
    queryFn: ({ signal }) => take(client.GET("/circuits/{circuit}/plan", { params: { path: { circuit } }, signal })),
    placeholderData: (before, query) => ofSame(circuit, before, query),
  });
}

export const useOption = (circuit: string, revision: string, option: string | undefined) =>
  useQuery({
    queryKey: keys.plan(circuit, revision, "option", option),
    queryFn: ({ signal }) =>
      take(client.GET("/circuits/{circuit}/options/{option}", { params: { path: { circuit, option: option ?? "" } }, signal })),
    enabled: option !== undefined,
    retry: false,
  });

export const useOptionDiagram = (circuit: string, revision: string, of: Version, option: string) =>
  useQuery({
    queryKey: keys.plan(circuit, revision, "diagram", of, option),
    queryFn: ({ signal }) =>
      take(client.GET("/circuits/{circuit}/picture", { params: { path: { circuit }, query: { of, option, compare: true } }, signal })),
    placeholderData: (before, query) => ofSame(circuit, before, query),
  });

export const useDevices = () =>
  useQuery({
    queryKey: keys.devices(),
    queryFn: ({ signal }) => take(client.GET("/devices", { params: { query: { practice: "na" } }, signal })),
  });

export const useWishes = (circuit: string, wanted = true) =>
  useQuery({
    queryKey: keys.wishes(circuit),
    enabled: wanted,
    queryFn: ({ signal }) => take(client.GET("/circuits/{circuit}/wishes", { params: { path: { circuit } }, signal })),
  });

/** Keeps wishes, and lets the plan be made for them at once. */
export function useWish(circuit: string) {
  const queries = useQueryClient();
  return useMutation({
    scope: { id: `wishes-${circuit}` },
    mutationFn: (wishes: Schemas["Wishes"]) => {
      const base = queries.getQueryData<Schemas["WishesAnswer"]>(keys.wishes(circuit))?.version ?? "";
      return take(client.PUT("/circuits/{circuit}/wishes", { params: { path: { circuit } }, body: { base, wishes } }));
    },
    onError: () => void queries.invalidateQueries({ queryKey: keys.wishes(circuit) }),
    onSuccess: (next) => {
      queries.setQueryData(keys.wishes(circuit), next);
      void queries.invalidateQueries({ queryKey: keys.plan(circuit) });
    },
  });
}

export type Prefer = "dead" | "trips";

export const useTrace = (circuit: string, revision: string, prefer: Prefer, toward: string | undefined, wanted: boolean) =>
  useQuery({
    queryKey: keys.trace(circuit, revision, prefer, toward),
    queryFn: ({ signal }) =>
      take(client.GET("/circuits/{circuit}/trace", { params: { path: { circuit }, query: { prefer, toward } }, signal })),
    enabled: wanted,
    staleTime: Infinity, // a revision never changes
    placeholderData: (before, query) => ofSame(circuit, before, query),
    retry: false,
  });

export const useAhead = (circuit: string, revision: string, prefer: Prefer, wanted: boolean) =>
  useQuery({
    queryKey: keys.ahead(circuit, revision, prefer),
    queryFn: ({ signal }) =>
      take(client.GET("/circuits/{circuit}/trace/ahead", { params: { path: { circuit }, query: { prefer } }, signal })),
    enabled: wanted,
    staleTime: Infinity,
    retry: false,
  });

export const useTree = (circuit: string, revision: string, prefer: Prefer, wanted: boolean) =>
  useQuery({
    queryKey: keys.tree(circuit, revision, prefer),
    queryFn: ({ signal }) =>
      take(client.GET("/circuits/{circuit}/trace/tree", { params: { path: { circuit }, query: { prefer } }, signal })),
    enabled: wanted,
    staleTime: Infinity,
    retry: false,
  });

/** How far that tree is, asked each second while it is being followed. */
export const useFollowed = (circuit: string, revision: string, prefer: Prefer, wanted: boolean) =>
  useQuery({
    queryKey: keys.followed(circuit, revision, prefer),
    queryFn: ({ signal }) =>
      take(client.GET("/circuits/{circuit}/trace/followed", { params: { path: { circuit }, query: { prefer } }, signal })),
    enabled: wanted,
    refetchInterval: 1000,
    gcTime: 0,
  });

/** A drawing of a circuit: every conductor, a box, one line, or what changes. */
export const usePicture = (
  circuit: string,
  revision: string,
  query: { of: Version; box?: string; view?: Schemas["View"]; compare?: boolean },
  wanted = true,
) =>
  useQuery({
    queryKey: keys.picture(circuit, revision, query),
    enabled: wanted,
    queryFn: ({ signal }) => take(client.GET("/circuits/{circuit}/picture", { params: { path: { circuit }, query }, signal })),
    placeholderData: (before, query) => ofSame(circuit, before, query),
    staleTime: Infinity, // a revision never changes
  });

/** The usual boxes that may stand behind a cable, drawn; behind one that nobody can name where it is empty. */
export const useUsual = (circuit: string, revision: string, cable: string) =>
  useQuery({
    queryKey: keys.usual(circuit, revision, cable),
    queryFn: ({ signal }) =>
      take(client.GET("/circuits/{circuit}/usual", { params: { path: { circuit }, query: cable ? { cable } : {} }, signal })),
    placeholderData: (before, query) => ofSame(circuit, before, query),
    staleTime: Infinity,
  });

/** The steps of the chosen plan, or the way back after so many of them. */
export const useProcedure = (circuit: string, revision: string, back?: number) =>
  useQuery({
    queryKey: keys.procedure(circuit, revision, back),
    queryFn: ({ signal }) => take(client.GET("/circuits/{circuit}/procedure", { params: { path: { circuit }, query: { back } }, signal })),
    placeholderData: (before, query) => ofSame(circuit, before, query),
    staleTime: Infinity,
  });

export const usePress = (circuit: string) =>
  useMutation({
    mutationFn: (body: Schemas["PressRequest"]) => take(client.POST("/circuits/{circuit}/press", { params: { path: { circuit } }, body })),
  });

/** What a person does to a circuit; each is made on the revision that they saw. */
export type Change = { do: "edit"; edit: Edit } | { do: "undo" } | { do: "redo" } | { do: "choose"; option: string } | { do: "record" };

export function useChange(circuit: string) {
  const queries = useQueryClient();
  return useMutation({
    scope: { id: `circuit-${circuit}` }, // one after the other: a double press is two presses
    retry: (_, error) => noAnswer(error), // it is made on a revision, so it cannot be made twice
    retryDelay: 1000,
    mutationFn: (change: Change) => {
      const base = queries.getQueryData<Circuit>(keys.circuit(circuit))?.revision ?? "";
      const params = { path: { circuit } };
      switch (change.do) {
        case "edit":
          return take(client.POST("/circuits/{circuit}/edits", { params, body: { base, edit: change.edit } }));
        case "choose":
          return take(client.POST("/circuits/{circuit}/choice", { params, body: { base, option: change.option } }));
        case "record":
          return take(client.POST("/circuits/{circuit}/record", { params, body: { base } }));
        case "undo":
          return take(client.POST("/circuits/{circuit}/undo", { params, body: { base } }));
        case "redo":
          return take(client.POST("/circuits/{circuit}/redo", { params, body: { base } }));
      }
    },
    onSuccess: (next) => {
      queries.setQueryData(keys.circuit(circuit), next);
      void queries.invalidateQueries({ queryKey: keys.job(next.job) });
    },
  });
}

export const useHistory = (circuit: string, revision: string) =>
  useQuery({
    queryKey: keys.history(circuit, revision),
    queryFn: ({ signal }) => take(client.GET("/circuits/{circuit}/history", { params: { path: { circuit } }, signal })),
    enabled: revision !== "",
  });

/** The drawing of a former revision. */
export const useFormer = (circuit: string, revision: string | undefined) =>
  useQuery({
    queryKey: keys.history(circuit, "drawing", revision),
    queryFn: ({ signal }) =>
      take(client.GET("/circuits/{circuit}/history/{revision}", { params: { path: { circuit, revision: revision ?? "" } }, signal })),
    enabled: revision !== undefined,
  });

export const useBin = () => useQuery({ queryKey: keys.bin(), queryFn: ({ signal }) => take(client.GET("/bin", { signal })) });

export const useFirm = () => useQuery({ queryKey: keys.firm(), queryFn: ({ signal }) => take(client.GET("/firm", { signal })) });

export const useCustomer = (job: string) =>
  useQuery({
    queryKey: keys.customer(job),
    queryFn: ({ signal }) => take(client.GET("/jobs/{job}/customer", { params: { path: { job } }, signal })),
  });

/** What a test chosen by hand would tell, once it is asked. */
export const usePreview = (circuit: string, revision: string, test: Schemas["Observation"] | undefined) =>
  useQuery({
    queryKey: keys.preview(circuit, revision, test),
    queryFn: ({ signal }) =>
      take(
        client.POST("/circuits/{circuit}/trace/preview", {
          params: { path: { circuit } },
          body: test ?? { power: "off", instrument: "continuity" },
          signal,
        }),
      ),
    enabled: test !== undefined,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });
