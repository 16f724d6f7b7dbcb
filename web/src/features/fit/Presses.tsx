import { useState } from "react";
import { Link } from "react-router";
import { useProof, type Entry } from "../../api/fitting";
import { useWork } from "../circuit/work";
import { PressCard } from "../prove/PressCard";

/** The presses that prove the work, made where the steps try it: what is pressed here is not asked for again. */
export function Presses(props: { busy: boolean; add: (entry: Entry) => void }) {
  const { circuit } = useWork();
  const proof = useProof(circuit.id, circuit.revision);
  const [anew, setAnew] = useState<number>();
  const known = proof.data;
  if (!known?.planned || known.presses.length === 0) return null;
  const data = anew === known.last ? { ...known, at: -1, right: true, seen: [] } : known;
  return (
    <div className="my-2 grid gap-2">
      <PressCard
        key={`${data.at} ${data.seen.at(-1)?.number ?? 0}`}
        proof={data}
        busy={props.busy || proof.isFetching}
        pictured={false}
        anew={() => setAnew(data.last)}
        add={props.add}
      />
      {!data.right && (
        <p className="border-l-6 border-ink pl-3">
          It does not do what right work does. <Link to={`/circuits/${circuit.id}/prove`}>Find what is wrong</Link> before anything is
          closed.
        </p>
      )}
    </div>
  );
}
