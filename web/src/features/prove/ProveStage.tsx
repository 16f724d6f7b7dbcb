import type { UseQueryResult } from "@tanstack/react-query";
import { Undo2 } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { useLog, type Entry } from "../../api/fitting";
import { look } from "../../ui/look";
import { Notice, Waiting } from "../../ui/Notice";
import { useKeys } from "../../ui/useKeys";
import { useOnce } from "../../ui/useOnce";
import { useWork } from "../circuit/work";
import { DeviceNotes } from "./DeviceNotes";
import { Diagnosis } from "./Diagnosis";
import { MeterTests } from "./MeterTests";
import { PressCard } from "./PressCard";
import { Trials } from "./Trials";
import { Troubles } from "./Troubles";

export type Proof = Schemas["Proof"];

/** Shows with the fewest presses that the work is right, and finds the mistake where it is not. */
export function ProveStage(props: { bench: boolean; proof: UseQueryResult<Proof>; undo: number }) {
  const { circuit } = useWork();
  const log = useLog(circuit.id);
  const once = useOnce();
  const add = (entry: Entry) => once("log", () => log.mutateAsync({ entry }));
  const takeBack = () => add({ kind: "undo", of: props.undo });
  const undoable = props.undo > 0 && (props.proof.data?.seen.length ?? 0) > 0;
  useKeys({ "mod+z": undoable && !log.isPending ? takeBack : undefined });
  const [anew, setAnew] = useState<number>(); // the log as it was when somebody wished to look at the lamps afresh
  const { data: known, error, isPending } = props.proof;
  const data = known && anew === known.last ? { ...known, at: -1, right: true, seen: [] } : known;
  const gutter = props.bench ? "px-4 py-3" : `py-3 ${look.gutter}`;
  if (circuit.document.boxes.length === 0) {
    return (
      <div className={gutter}>
        <p className={look.empty}>
          There is nothing to prove yet. <Link to={`/circuits/${circuit.id}/survey`}>Record the boxes that you opened.</Link>
        </p>
      </div>
    );
  }
  if (!data) {
    return (
      <div className={gutter}>
        <Notice error={error} />
        {isPending && <Waiting what="Looking for the fewest presses" />}
      </div>
    );
  }
  const busy = log.isPending || props.proof.isFetching;
  return (
    <div className={`grid gap-4 ${gutter}`}>
      <Notice error={error ?? log.error} />
      <PressCard
        anew={() => setAnew(data.last)}
        pictured={!props.bench}
        key={`${data.at} ${data.seen.at(-1)?.number ?? 0}`}
        proof={data}
        busy={busy}
        add={add}
      />
      {undoable && (
        <button type="button" className={`${look.button} justify-self-start`} disabled={busy} onClick={takeBack}>
          <Undo2 aria-hidden size={18} /> <kbd aria-hidden>Ctrl Z</kbd> Take the last entry back
        </button>
      )}
      {!data.right && <Diagnosis proof={data} busy={busy} add={add} />}
      {data.meter.length > 0 && <MeterTests proof={data} busy={busy} add={add} />}
      {data.trials.length > 0 && <Trials proof={data} busy={busy} add={add} />}
      {data.devices.length > 0 && <DeviceNotes proof={data} busy={busy} add={add} />}
      <Troubles proof={data} busy={busy} add={add} />
      <p>
        <Link to={`/circuits/${circuit.id}/record`}>The record</Link> is written from all this: nothing is typed twice.{" "}
        <a href={`/api/v1/circuits/${circuit.id}/readings`}>Every reading, as a table</a>.
      </p>
    </div>
  );
}
