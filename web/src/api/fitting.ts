import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { asFile, client, noAnswer, take, type Schemas } from "./client";
import { keys } from "./keys";

export type Fitting = Schemas["Work"];
export type Entry = Schemas["WorkEntry"];

/** How the fitting of a circuit stands. It is asked again now and then: others may work at it too. */
export const useFitting = (circuit: string, wanted = true) =>
  useQuery({
    queryKey: keys.fitting(circuit),
    enabled: wanted,
    queryFn: ({ signal }) => take(client.GET("/circuits/{circuit}/work", { params: { path: { circuit } }, signal })),
    refetchInterval: 5000,
  });

type Beginning = { way: Schemas["WorkBegin"]["way"]; mistake?: Schemas["Mistake"] };

/** Begins a run, or adds an entry to the log, after the entry that was seen last. */
export function useLog(circuit: string) {
  const queries = useQueryClient();
  return useMutation({
    scope: { id: `log-${circuit}` },
    retry: (_, error) => noAnswer(error), // an entry names the one before it, so it cannot be made twice
    retryDelay: 1000,
    mutationFn: (what: { entry: Entry } | Beginning) => {
      const base =
        queries.getQueryData<Fitting>(keys.fitting(circuit))?.last ??
        queries.getQueryData<Schemas["Proof"]>(keys.proof(circuit))?.last ??
        0;
      const params = { path: { circuit } };
      if ("entry" in what) return take(client.POST("/circuits/{circuit}/log", { params, body: { base, entry: what.entry } }));
      return take(client.POST("/circuits/{circuit}/work", { params, body: { base, ...what } }));
    },
    onSuccess: (next) => {
      queries.setQueryData(keys.fitting(circuit), next);
      void queries.invalidateQueries({ queryKey: keys.proof(circuit) });
    },
    onError: () => void queries.invalidateQueries({ queryKey: keys.fitting(circuit) }),
  });
}

/** The box of a step, as it was with the last entry that is known here and as the step leaves it. */
export const useStepPictures = (circuit: string, step: number, last: number, wanted: boolean) =>
  useQuery({
    queryKey: keys.step(circuit, step, last),
    enabled: wanted,
    queryFn: ({ signal }) =>
      take(client.GET("/circuits/{circuit}/work/step/{step}", { params: { path: { circuit, step }, query: { last } }, signal })),
    staleTime: Infinity,
    retry: false,
  });

/** A box with a mistake in it, and as it should be. */
export const useMistake = (circuit: string, revision: string, mistake: Schemas["Mistake"], box: string) =>
  useQuery({
    queryKey: keys.mistake(circuit, revision, mistake, box),
    queryFn: ({ signal }) =>
      take(client.POST("/circuits/{circuit}/mistake", { params: { path: { circuit } }, body: { mistake, box }, signal })),
    staleTime: Infinity,
    retry: false,
  });

/** Keeps a photograph of a box; what it is called is told. */
export function useAddPhoto(circuit: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ box, file }: { box: string; file: File }) =>
      take(client.POST("/circuits/{circuit}/boxes/{box}/photos", { params: { path: { circuit, box } }, ...asFile(file) })),
    onSettled: () => void queries.invalidateQueries({ queryKey: keys.circuit(circuit) }),
  });
}

/** What shows that the work is right, and what was seen of it. */
export const useProof = (circuit: string, revision: string, wanted = true) =>
  useQuery({
    queryKey: keys.proof(circuit, revision),
    enabled: wanted,
    queryFn: ({ signal }) => take(client.GET("/circuits/{circuit}/proof", { params: { path: { circuit } }, signal })),
    retry: false,
  });

/** Which single mistakes explain what was seen. */
export const useDiagnosis = (circuit: string, last: number, wanted: boolean) =>
  useQuery({
    queryKey: keys.diagnosis(circuit, last),
    enabled: wanted,
    queryFn: ({ signal }) => take(client.GET("/circuits/{circuit}/diagnosis", { params: { path: { circuit } }, signal })),
    staleTime: Infinity,
    retry: false,
  });
