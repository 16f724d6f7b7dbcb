import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { client, take } from "../../api/client";
import { keys } from "../../api/keys";
import { Notice } from "../../ui/Notice";
import { useWork } from "../circuit/work";
import { look } from "../../ui/look";

/** A hidden house to practise on: make one of this circuit, or see what was right. */
export function PracticeHouse(props: { done: boolean }) {
  const { circuit } = useWork();
  const go = useNavigate();
  const queries = useQueryClient();
  const hide = useMutation({
    mutationFn: () => take(client.POST("/circuits/{circuit}/house", { params: { path: { circuit: circuit.id } } })),
    onSuccess: (made) => {
      void queries.invalidateQueries({ queryKey: keys.job(made.job) });
      void go(`/circuits/${made.id}/trace`);
    },
  });
  const compare = useMutation({
    mutationFn: () => take(client.GET("/circuits/{circuit}/house", { params: { path: { circuit: circuit.id } } })),
  });
  const sound = circuit.reading.ready && !circuit.house;
  if (!circuit.house && !sound) return null;
  return (
    <section className={look.chapter} aria-label="Practice">
      <h2>Practice</h2>
      {circuit.house ? (
        <>
          <p className="text-soft">
            A hidden house answers here, with instruments that lie as real ones do. Nothing is live but the screen.
          </p>
          <button type="button" className={look.button} disabled={compare.isPending} onClick={() => compare.mutate()}>
            {props.done ? "Open the walls and compare" : "Compare what is certain so far"}
          </button>
          <Notice error={compare.error} />
          {compare.data && (
            <div role="status">
              <p>
                {compare.data.right} of {compare.data.ends} conductors that are certain are right.
              </p>
              <ul className={look.dashes}>
                {compare.data.wrong.map((w) => (
                  <li key={w}>{w}</li>
                ))}
              </ul>
            </div>
          )}
        </>
      ) : (
        <>
          <p className="text-soft">Hide this circuit behind walls and trace it again from its opened switch boxes.</p>
          <button type="button" className={look.button} disabled={hide.isPending} onClick={() => hide.mutate()}>
            Hide it and practise
          </button>
          <Notice error={hide.error} />
        </>
      )}
    </section>
  );
}
