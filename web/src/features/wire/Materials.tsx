import { useProcedure } from "../../api/queries";
import { useWork } from "../circuit/work";
import { useMoney } from "../../ui/settings";
import { Notice, Waiting } from "../../ui/Notice";

/** What to bring, the room in each box before and after, and the labels. */
export function Materials() {
  const { circuit, word } = useWork();
  const money = useMoney();
  const procedure = useProcedure(circuit.id, circuit.revision);
  const data = procedure.data;
  const m = circuit.choice?.option.metrics;
  if (!data) return procedure.error ? <Notice error={procedure.error} /> : <Waiting what="Counting" />;
  const groups = [...new Set(data.materials.map((x) => x.group))];
  return (
    <div className="px-6 py-2.5 max-sm:px-3.5">
      <section className="pb-4" aria-label="In numbers">
        <h2>In numbers</h2>
        <p>
          {m?.boxesTouched} {m?.boxesTouched === 1 ? "box" : "boxes"} opened, {m?.endsMoved} ends touched, {m?.walks}{" "}
          {m?.walks === 1 ? "walk" : "walks"} to the {word("panel")}, about {m?.minutes} minutes. The devices cost {money(m?.price)}.
          Standby {m?.standbyWatts} W, {m?.standbyYear} kWh a year.
        </p>
        <ul>
          {circuit.choice?.option.checks
            ?.filter((c) => c.code === "load" || c.code === "box-room")
            .map((c) => (
              <li key={c.code}>{c.text}</li>
            ))}
        </ul>
      </section>
      <section className="pb-4" aria-label="Materials">
        <h3>Materials</h3>
        <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="List of">
          <table className="w-full min-w-0! wrap-normal">
            <thead>
              <tr>
                <th scope="col">Count</th>
                <th scope="col">What</th>
                <th scope="col">Note</th>
                <th scope="col">Price</th>
              </tr>
            </thead>
            {groups.map((group) => (
              <tbody key={group}>
                <tr>
                  <th scope="colgroup" colSpan={4}>
                    {group}
                  </th>
                </tr>
                {data.materials
                  .filter((x) => x.group === group)
                  .map((x) => (
                    <tr key={x.what + (x.note ?? "")}>
                      <td>{x.count}</td>
                      <td>{x.what}</td>
                      <td>{x.note}</td>
                      <td>{x.price === undefined ? "" : money(x.price)}</td>
                    </tr>
                  ))}
              </tbody>
            ))}
          </table>
        </div>
      </section>
      <section className="pb-4" aria-label="Room in the boxes">
        <h3>Room in the boxes</h3>
        {data.rooms.length === 0 && <p className="text-soft">No box in the wall is worked in.</p>}
        {data.rooms.map((r) => (
          <div key={r.box} className="overflow-x-auto" tabIndex={0} role="region" aria-label={`Room in ${r.where}`}>
            <table>
              <caption className="py-1.5 text-left font-[650]">
                {r.where}: {r.verdict}. {r.note}
              </caption>
              {r.lines.length > 0 && (
                <>
                  <thead>
                    <tr>
                      <th scope="col">What</th>
                      <th scope="col">Before</th>
                      <th scope="col">After</th>
                    </tr>
                  </thead>
                  <tbody>
                    {r.lines.map((l) => (
                      <tr key={l.what}>
                        <td>{l.what}</td>
                        <td>{l.before}</td>
                        <td>{l.after}</td>
                      </tr>
                    ))}
                  </tbody>
                </>
              )}
            </table>
          </div>
        ))}
      </section>
      <section className="pb-4" aria-label="Labels">
        <h3>Labels for conductors</h3>
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(9rem,1fr))] gap-2.5 [&_strong]:text-[1.05rem] [&>li]:grid [&>li]:border [&>li]:border-dashed [&>li]:border-soft [&>li]:bg-sheet [&>li]:px-2.5 [&>li]:py-2 [&>li]:text-[0.85rem]">
          {data.labels.map((l) => (
            <li key={l.end}>
              <strong>{l.role}</strong>
              <span>{l.letters}</span>
              <span>to {l.towards}</span>
              <span>{l.box}</span>
              {l.was && <span className="text-soft">(was {l.was})</span>}
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
}
