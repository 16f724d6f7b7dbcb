import type { Fitting } from "../../api/fitting";
import { Fold } from "../../ui/Fold";

/** Minutes by phase, beside what was thought when the run began. */
export function Times({ fitting }: { fitting: Fitting }) {
  const sum = (of: "took" | "thought") => Math.round(fitting.times.reduce((n, t) => n + t[of], 0));
  return (
    <Fold title={`Time: ${sum("took")} minutes of ${sum("thought")}, about`}>
      <table className="min-w-0">
        <thead>
          <tr>
            <th scope="col">Phase</th>
            <th scope="col">Minutes</th>
            <th scope="col">Thought before</th>
          </tr>
        </thead>
        <tbody>
          {fitting.times.map((t) => (
            <tr key={t.phase}>
              <td>{fitting.phases.find((p) => p.id === t.phase)?.text ?? t.phase}</td>
              <td className="tabular-nums">{Math.round(t.took)}</td>
              <td className="tabular-nums">{Math.round(t.thought)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="pt-1 text-soft">
        Pauses of half an hour and more are left out. The estimate takes the median of own work, once there is enough.
      </p>
    </Fold>
  );
}
