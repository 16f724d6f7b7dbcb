import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { client, take, type Schemas } from "./client";
import { keys } from "./keys";

export type Shown = Schemas["RehearsalShown"];
export type What = Schemas["RehearsalOf"];

/** The ways in which the links of a plan can be made: of the chosen one, or of an option. */
export const useLinks = (circuit: string, revision: string, option: string | undefined, wanted: boolean) =>
  useQuery({
    queryKey: keys.links(circuit, revision, option),
    enabled: wanted,
    queryFn: ({ signal }) =>
      take(
        client.GET("/circuits/{circuit}/links", { params: { path: { circuit }, query: option === undefined ? {} : { option } }, signal }),
      ),
    staleTime: Infinity,
    retry: false,
  });

/** What links, rules and mirrors do, in every order in which messages may arrive. */
export const useRehearsal = (circuit: string, revision: string, what: What, wanted: boolean) =>
  useQuery({
    queryKey: keys.rehearsal(circuit, revision, what),
    enabled: wanted,
    queryFn: ({ signal }) => take(client.POST("/circuits/{circuit}/rehearsal", { params: { path: { circuit } }, body: what, signal })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });

/** What holds where messages take so long. */
export const useWithin = (circuit: string, revision: string, what: What, delays: Schemas["Delays"]) =>
  useQuery({
    queryKey: keys.rehearsal(circuit, revision, what, delays),
    queryFn: ({ signal }) =>
      take(client.POST("/circuits/{circuit}/rehearsal/within", { params: { path: { circuit } }, body: { what, delays }, signal })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });

/** What one move makes of a moment. */
export const useMove = (circuit: string) =>
  useMutation({
    scope: { id: `rehearsal-${circuit}` },
    mutationFn: (body: Schemas["RehearsalMove"]) =>
      take(client.POST("/circuits/{circuit}/rehearsal/move", { params: { path: { circuit } }, body })),
  });

/** What comes of a paddle that is held at one of two dimmers that follow each other. */
export const useRamp = (held: Schemas["Held"], wanted: boolean) =>
  useQuery({
    queryKey: keys.ramp(held),
    enabled: wanted,
    queryFn: ({ signal }) => take(client.POST("/ramp", { body: held, signal })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });

/** Keeps which way the links of the chosen plan are made, with rules that were changed. */
export function useKeepLinks(circuit: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["LinksRequest"]) => take(client.PUT("/circuits/{circuit}/links", { params: { path: { circuit } }, body })),
    onSuccess: () =>
      Promise.all([
        queries.invalidateQueries({ queryKey: keys.rehearsal(circuit) }),
        queries.invalidateQueries({ queryKey: keys.procedure(circuit) }), // its steps say what is entered
      ]),
  });
}
