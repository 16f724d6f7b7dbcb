import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { client, take, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useCircuit, useFormer, useHistory } from "../../api/queries";
import { Fitted } from "../drawing/Picture";
import { Notice, Waiting } from "../../ui/Notice";
import { useDates } from "../../ui/settings";
import { Shell } from "../../ui/Shell";
import { CircuitTrail } from "../circuit/CircuitTrail";
import { look } from "../../ui/look";

/** Every revision of a circuit: when, what; each can be looked at and made the head again. */
export function HistoryPage() {
  const id = useParams().circuit ?? "";
  const queries = useQueryClient();
  const go = useNavigate();
  const circuit = useCircuit(id);
  const [shown, setShown] = useState<Schemas["Revision"]>();
  const revision = circuit.data?.revision ?? "";
  const history = useHistory(id, revision);
  const written = useDates();
  const drawing = useFormer(id, shown?.id);
  const back = useMutation({
    mutationFn: (to: string) =>
      take(
        client.POST("/circuits/{circuit}/history/{revision}", {
          params: { path: { circuit: id, revision: to } },
          body: { base: revision },
        }),
      ),
    onSuccess: (next) => {
      queries.setQueryData(keys.circuit(id), next);
      void go(`/circuits/${id}/survey`);
    },
  });
  return (
    <Shell title="History" trail={<CircuitTrail to={`/circuits/${id}/survey`} circuit={circuit.data?.document.name} page="History" />}>
      <section className={look.page}>
        <h1>History</h1>
        <p className={look.lead}>
          Nothing that was recorded is overwritten. To go back to a revision makes one revision more, which undo takes back.
        </p>
        <Notice error={circuit.error ?? history.error ?? drawing.error ?? back.error} />
        {history.isPending && <Waiting what="Reading the history" />}
        {shown !== undefined && drawing.data && (
          <div className={look.sheet} role="region" aria-label={`Revision ${shown.number}: drawing`} tabIndex={0}>
            <Fitted picture={drawing.data} />
          </div>
        )}
        <ol className="history">
          {history.data?.map((r) => (
            <li key={r.id} className={`${look.row} items-center`}>
              <span className="flex-1">
                <strong>{r.number}</strong> {r.summary}
                {r.head && <em> · as it is now</em>}
                <br />
                <span className="text-soft">
                  {written(r.created, true)}
                  {r.by && ` · ${r.by}`}
                  {r.chosen && " · with a plan chosen"}
                </span>
              </span>
              <button
                type="button"
                className={look.button}
                aria-pressed={shown?.id === r.id}
                onClick={() => setShown(r)}
                aria-label={`Look at revision ${r.number}`}
              >
                Look
              </button>
              <button
                type="button"
                className={look.button}
                disabled={r.head || back.isPending}
                onClick={() => back.mutate(r.id)}
                aria-label={`Go back to revision ${r.number}`}
              >
                Go back to this
              </button>
            </li>
          ))}
        </ol>
      </section>
    </Shell>
  );
}
