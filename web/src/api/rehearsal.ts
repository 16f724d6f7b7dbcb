import { useMutation, useQuery } from "@tanstack/react-query";
import { client, take, type Schemas, type Version } from "./client";

export type Shown = Schemas["RehearsalShown"];

/** What links, rules and mirrors do, in every order in which messages may arrive. */
export const useRehearsal = (circuit: string, revision: string, of: Version, wanted: boolean) =>
  useQuery({
    queryKey: ["rehearsal", circuit, revision, of],
    enabled: wanted,
    queryFn: () => take(client.GET("/circuits/{circuit}/rehearsal", { params: { path: { circuit }, query: { of } } })),
    staleTime: Infinity,
    retry: false,
  });

/** What one move makes of a moment. */
export const useMove = (circuit: string) =>
  useMutation({
    scope: { id: `rehearsal-${circuit}` },
    mutationFn: (body: Schemas["RehearsalMove"]) =>
      take(client.POST("/circuits/{circuit}/rehearsal", { params: { path: { circuit } }, body })),
  });
