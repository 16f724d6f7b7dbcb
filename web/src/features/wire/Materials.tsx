import { useProcedure } from "../../api/queries";
import { useWork } from "../circuit/work";
import { Notice, Waiting } from "../../ui/Notice";

/** What to bring, the room in each box before and after, and the labels. */
export function Materials() {
  const { circuit } = useWork();
  const procedure = useProcedure(circuit.id, circuit.revision);
  const data = procedure.data;
  const m = circuit.choice?.option.metrics;
  if (!data) return procedure.error ? <Notice error={procedure.error} /> : <Waiting what="Counting" />;
  const groups = [...new Set(data.materials.map((x) => x.group))];
  return (
    <div className="pad materials">
      <section aria-label="In numbers">
        <h3>In numbers</h3>
        <p>
          {m?.boxesTouched} boxes opened, {m?.endsMoved} ends touched, {m?.walks} walk to the panel, about {m?.minutes} minutes. The devices
          cost {m?.price}. Standby {m?.standbyWatts} W, {m?.standbyYear} kWh a year.
        </p>
        <ul>
          {circuit.choice?.option.checks
            ?.filter((c) => c.code === "load" || c.code === "box-room")
            .map((c) => (
              <li key={c.code}>{c.text}</li>
            ))}
        </ul>
      </section>
      <section aria-label="Materials">
        <h3>Materials</h3>
        <div className="scroll" tabIndex={0} role="region" aria-label="List of materials">
          <table>
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
                      <td>{x.price ?? ""}</td>
                    </tr>
                  ))}
              </tbody>
            ))}
          </table>
        </div>
      </section>
      <section aria-label="Room in the boxes">
        <h3>Room in the boxes</h3>
        {data.rooms.length === 0 && <p className="quiet">No box in the wall is worked in.</p>}
        {data.rooms.map((r) => (
          <div key={r.box} className="scroll" tabIndex={0} role="region" aria-label={`Room in ${r.where}`}>
            <table>
              <caption>
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
      <section aria-label="Labels">
        <h3>Labels for conductors</h3>
        <ul className="labels">
          {data.labels.map((l) => (
            <li key={l.end}>
              <strong>{l.role}</strong>
              <span>
                {l.letters} · {l.cable}
              </span>
              <span>to {l.towards}</span>
              <span>{l.box}</span>
              {l.was && <span className="quiet">(was {l.was})</span>}
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
}
