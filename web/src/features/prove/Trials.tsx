import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useFitting, type Entry } from "../../api/fitting";
import { Fold } from "../../ui/Fold";
import { look } from "../../ui/look";
import { useWork } from "../circuit/work";
import type { Proof } from "./ProveStage";

/** Each place from each state on each path, with what is expected; what nobody tried stands as not tested. */
export function Trials(props: { proof: Proof; busy: boolean; add: (entry: Entry) => void }) {
  const tried = props.proof.trials.filter((t) => t.entry !== undefined).length;
  const paths = [...new Set(props.proof.trials.map((t) => t.path))];
  return (
    <Fold section title={`Each place on each path: ${tried} of ${props.proof.trials.length} tried`}>
      {paths.map((path) => (
        <Fold
          key={path}
          title={`${path}: ${props.proof.trials.filter((t) => t.path === path && t.entry !== undefined).length} of ${props.proof.trials.filter((t) => t.path === path).length} tried`}
        >
          <ul>
            {props.proof.trials
              .filter((t) => t.path === path)
              .map((t) => (
                <TrialRow key={`${t.place} ${t.from}`} trial={t} busy={props.busy} add={props.add} />
              ))}
          </ul>
        </Fold>
      ))}
    </Fold>
  );
}

function TrialRow(props: { trial: Schemas["Trial"]; busy: boolean; add: (entry: Entry) => void }) {
  const { circuit } = useWork();
  const { trial } = props;
  const [seconds, setSeconds] = useState("");
  const entry = useFitting(circuit.id).data?.entries.find((e) => e.number === trial.entry);
  const delay = Number(seconds.replace(",", "."));
  const say = (works: boolean) =>
    props.add({
      kind: "trial",
      place: trial.place,
      path: trial.path,
      from: trial.from,
      works,
      ...(seconds.trim() !== "" && Number.isFinite(delay) && delay >= 0 ? { seconds: delay } : {}),
    });
  return (
    <li className="grid gap-1 border-t border-rule py-2">
      <p>
        <strong>{trial.where}</strong>, from {trial.from}: {trial.expect}.
      </p>
      <div className="flex flex-wrap items-end gap-2">
        <button type="button" className={look.button} disabled={props.busy} onClick={() => say(true)}>
          So it is
        </button>
        <button type="button" className={look.button} disabled={props.busy} onClick={() => say(false)}>
          It is not
        </button>
        <label className={look.field}>
          <span>Delay, seconds</span>
          <input inputMode="decimal" value={seconds} onChange={(e) => setSeconds(e.target.value)} />
        </label>
      </div>
      <p role="status" className="text-soft">
        {entry ? entry.words : "not tested"}
      </p>
    </li>
  );
}
