import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { client, take, type Schemas } from "./client";
import { keys } from "./keys";

export type Use = Schemas["Use"];
export type Tried = Schemas["UseAnswer"]["tried"];

/** How a light is used, and what a year of it takes. */
export const useUse = (circuit: string) =>
  useQuery({
    queryKey: keys.use(circuit),
    queryFn: ({ signal }) => take(client.GET("/circuits/{circuit}/use", { params: { path: { circuit } }, signal })),
  });

/** Keeps how a light is used, and works out its year. */
export function usePutUse(circuit: string) {
  const queries = useQueryClient();
  return useMutation({
    scope: { id: `use-${circuit}` },
    mutationFn: (use: Use) => {
      const base = queries.getQueryData<Schemas["UseAnswer"]>(keys.use(circuit))?.version ?? "";
      return take(client.PUT("/circuits/{circuit}/use", { params: { path: { circuit } }, body: { base, use } }));
    },
    onSuccess: (next) => queries.setQueryData(keys.use(circuit), next),
  });
}

const asked = (assumptions: Schemas["UpkeepAssumptions"] | undefined, currency: string) =>
  assumptions ? { assumptions: { ...assumptions, currency } } : currency ? { currency } : {};

/** What the cheapest options of each sort cost over years, under some assumptions; the usual ones where none are given. */
export const useUpkeep = (circuit: string, assumptions: Schemas["UpkeepAssumptions"] | undefined, currency: string) =>
  useQuery({
    queryKey: keys.upkeep(circuit, assumptions, currency),
    queryFn: ({ signal }) =>
      take(client.POST("/circuits/{circuit}/upkeep", { params: { path: { circuit } }, body: asked(assumptions, currency), signal })),
    placeholderData: keepPreviousData,
    retry: false,
  });

/** The stand-in hub that runs; asked again and again while it is looked at. */
export const useHub = (looking: boolean) =>
  useQuery({
    queryKey: keys.hub(),
    queryFn: ({ signal }) => take(client.GET("/hub", { signal })),
    refetchInterval: (query) => (looking && query.state.data?.runs ? 400 : false),
  });

/** Starts and stops it, and presses at its places. */
export function useHubActs() {
  const queries = useQueryClient();
  const onSuccess = (next: Schemas["HubAnswer"]) => queries.setQueryData(keys.hub(), next);
  return {
    start: useMutation({ mutationFn: (body: Schemas["HubRequest"]) => take(client.POST("/hub", { body })), onSuccess }),
    stop: useMutation({
      mutationFn: () => take(client.DELETE("/hub")),
      onSuccess: () => queries.setQueryData(keys.hub(), { runs: false }),
    }),
    press: useMutation({ mutationFn: (body: Schemas["HubPress"]) => take(client.POST("/hub/press", { body })), onSuccess }),
  };
}
