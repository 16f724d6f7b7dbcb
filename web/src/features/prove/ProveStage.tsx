import type { UseQueryResult } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { useLog, type Entry } from "../../api/fitting";
import { look } from "../../ui/look";
import { Notice, Waiting } from "../../ui/Notice";
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
export function ProveStage(props: { bench: boolean; proof: UseQueryResult<Proof> }) {
  const { circuit } = useWork();
  const log = useLog(circuit.id);
  const once = useOnce();
  const add = (entry: Entry) => once("log", () => log.mutateAsync({ entry }));
  const { data, error, isPending } = props.proof;
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
      <PressCard pictured={!props.bench} key={`${data.at} ${data.seen.at(-1)?.number ?? 0}`} proof={data} busy={busy} add={add} />
      {!data.right && <Diagnosis pictured={!props.bench} proof={data} busy={busy} add={add} />}
      {data.meter.length > 0 && <MeterTests proof={data} busy={busy} add={add} />}
      {data.trials.length > 0 && <Trials proof={data} busy={busy} add={add} />}
      {data.devices.length > 0 && <DeviceNotes proof={data} busy={busy} add={add} />}
      <Troubles proof={data} busy={busy} add={add} />
      <p>
        <Link to={`/jobs/${circuit.job}`}>The record</Link> is written from all this: nothing is typed twice.{" "}
        <a href={`/api/v1/circuits/${circuit.id}/readings`}>Every reading, as a table</a>.
      </p>
    </div>
  );
}
