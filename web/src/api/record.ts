import { useQuery } from "@tanstack/react-query";
import { client, take } from "./client";
import { keys } from "./keys";

/** What the record says of a circuit, with money in that currency. */
export const useHandover = (circuit: string, currency: string) =>
  useQuery({
    queryKey: keys.handover(circuit, currency),
    queryFn: ({ signal }) =>
      take(client.GET("/circuits/{circuit}/handover", { params: { path: { circuit }, query: currency ? { currency } : {} }, signal })),
    gcTime: 0, // the log, the plan, what is used and noted: any of them may be another since
  });
