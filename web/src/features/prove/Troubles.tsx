import type { Entry } from "../../api/fitting";
import { Fold } from "../../ui/Fold";
import { look } from "../../ui/look";
import type { Proof } from "./ProveStage";

/** Faults that are often seen, with what to do; what was seen is noted for the record. */
export function Troubles(props: { proof: Proof; busy: boolean; add: (entry: Entry) => void }) {
  return (
    <Fold section title="Something is odd">
      {props.proof.troubles.map((t) => (
        <Fold key={t.id} title={t.text}>
          <ol className="list-decimal pl-6">
            {t.do.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ol>
          <button
            type="button"
            className={`${look.button} my-2`}
            disabled={props.busy}
            onClick={() => props.add({ kind: "fault", note: t.text })}
          >
            Note it for the record
          </button>
        </Fold>
      ))}
    </Fold>
  );
}
