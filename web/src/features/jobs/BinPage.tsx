import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { client, take, type Schemas } from "../../api/client";
import { useBin } from "../../api/queries";
import { Notice, Waiting } from "../../ui/Notice";
import { Remove } from "../../ui/Remove";
import { Shell, Trail } from "../../ui/Shell";
import { useDates } from "../../ui/settings";
import { look } from "../../ui/look";

/** What was removed and can still be had back. */
export function BinPage() {
  const queries = useQueryClient();
  const day = useDates();
  const bin = useBin();
  const done = () => void queries.invalidateQueries();
  const restore = useMutation({
    mutationFn: async (x: Schemas["Binned"]) => {
      if (x.circuit) await take(client.POST("/circuits/{circuit}/restore", { params: { path: { circuit: x.circuit } } }));
      else await take(client.POST("/jobs/{job}/restore", { params: { path: { job: x.job } } }));
    },
    onSettled: done,
  });
  const empty = useMutation({ mutationFn: () => take(client.DELETE("/bin")), onSettled: done });
  return (
    <Shell title="Bin" trail={<Trail>Bin</Trail>}>
      <section className={look.page}>
        <h1>Bin</h1>
        <p className={look.lead}>Jobs and circuits that were removed lie here for 30 days, whole, with their history and photographs.</p>
        <Notice error={bin.error ?? restore.error ?? empty.error} />
        {bin.isPending && <Waiting what="Looking into the bin" />}
        {bin.data?.length === 0 && <p className={look.empty}>The bin is empty.</p>}
        {bin.data && bin.data.length > 0 && (
          <>
            <ol className={look.index}>
              {bin.data.map((x) => (
                <li key={`${x.job} ${x.circuit ?? ""}`}>
                  <span>{x.name}</span>
                  <span className={look.leader} aria-hidden />
                  <span className={look.aside}>
                    {x.circuit ? `circuit of ${x.of}` : x.circuits === 1 ? "job, 1 circuit" : `job, ${x.circuits} circuits`} · kept until{" "}
                    {day(x.until)}
                  </span>
                  <button
                    type="button"
                    className={look.button}
                    disabled={restore.isPending}
                    onClick={() => restore.mutate(x)}
                    aria-label={`Restore ${x.name}`}
                  >
                    Restore
                  </button>
                </li>
              ))}
            </ol>
            <p className={look.row}>
              <span className="text-soft">Empty the bin for good:</span>
              <Remove what="all of this" warning="Remove all of this for good? It cannot be had back." onRemove={() => empty.mutate()} />
            </p>
          </>
        )}
        <p className="mt-6">
          <Link to="/">Back to the jobs</Link>
        </p>
      </section>
    </Shell>
  );
}
