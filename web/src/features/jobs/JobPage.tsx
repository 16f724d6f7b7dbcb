import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Copy, Download, Pencil } from "lucide-react";
import { Popover } from "radix-ui";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { asFile, client, take, type Schemas } from "../../api/client";
import { useJob, usePractices } from "../../api/queries";
import { DropFile } from "../../ui/DropFile";
import { Hint } from "../../ui/Hint";
import { LineForm } from "../../ui/LineForm";
import { Notice, Waiting } from "../../ui/Notice";
import { Remove } from "../../ui/Remove";
import { Shell, Trail } from "../../ui/Shell";
import { among } from "../../ui/among";
import { fileName } from "../../ui/fileName";
import { useSettings } from "../../ui/settings";

const verdicts: Record<Schemas["CircuitSummary"]["verdict"], string> = {
  works: "works as recorded",
  faulty: "not sound yet",
  unknown: "too large to be gone through",
  empty: "nothing recorded yet",
  unreadable: "cannot be read; its file can still be taken out",
};

export function JobPage() {
  const id = useParams().job ?? "";
  const job = useJob(id);
  const practices = usePractices();
  const queries = useQueryClient();
  const go = useNavigate();
  const removeJob = useMutation({
    mutationFn: () => take(client.DELETE("/jobs/{job}", { params: { path: { job: id } } })),
    onSuccess: () => {
      void queries.invalidateQueries({ queryKey: ["jobs"] });
      void go("/");
    },
  });
  const removeCircuit = useMutation({
    mutationFn: (circuit: string) => take(client.DELETE("/circuits/{circuit}", { params: { path: { circuit } } })),
    onSettled: () => void queries.invalidateQueries({ queryKey: ["job", id] }),
  });
  const copy = useMutation({
    mutationFn: () => take(client.POST("/jobs/{job}/copy", { params: { path: { job: id } } })),
    onSuccess: ({ job: made }) => {
      void queries.invalidateQueries({ queryKey: ["jobs"] });
      void go(`/jobs/${made.id}`);
    },
  });
  const practiceName = (p: string) => practices.data?.find((x) => x.id === p)?.name ?? p;
  return (
    <Shell
      title={job.data?.name ?? "Job"}
      trail={<Trail>{job.data?.name}</Trail>}
      tools={
        job.data && (
          <>
            <a
              className="tool"
              href={`/api/v1/jobs/${id}/archive`}
              download={`${fileName(job.data.name)}.zip`}
              aria-label="Export the whole job, with its history and photographs"
            >
              <Download aria-hidden size={18} />
            </a>
            <Rename id={id} name={job.data.name} />
            <Hint text="Make a copy">
              <button
                type="button"
                className="tool"
                aria-label="Make a copy of this job"
                disabled={copy.isPending}
                onClick={() => copy.mutate()}
              >
                <Copy aria-hidden size={18} />
              </button>
            </Hint>
            <Remove
              what="this job"
              warning={`Remove ${job.data.name} with all its circuits? It lies in the bin for 30 days.`}
              onRemove={() => removeJob.mutate()}
            />
          </>
        )
      }
    >
      <section className="page">
        <h1>{job.data?.name ?? "Job"}</h1>
        <Notice error={job.error ?? removeJob.error ?? removeCircuit.error ?? copy.error} />
        {job.isPending && <Waiting what="Reading the job" />}
        {job.data?.circuits.length === 0 && (
          <p className="empty">
            No circuit yet. A circuit is one light with its switches: name it by what it lights, and say in which practice the house is
            wired.
          </p>
        )}
        {job.data && job.data.circuits.length > 0 && (
          <ol className="index">
            {job.data.circuits.map((c) => (
              <li key={c.id}>
                <Link to={`/circuits/${c.id}/survey`}>{c.name}</Link>
                <span className="leader" aria-hidden />
                <span className="quiet">
                  {verdicts[c.verdict]} · {c.boxes} boxes, {c.controls} controls · {practiceName(c.practice)}
                  {c.chosen ? " · plan chosen" : ""}
                </span>
                <Remove
                  what={c.name}
                  warning={`Remove the circuit ${c.name} with all its revisions? It lies in the bin for 30 days.`}
                  onRemove={() => removeCircuit.mutate(c.id)}
                />
              </li>
            ))}
          </ol>
        )}
        {job.data && <NewCircuit job={id} practices={practices.data ?? []} />}
        {job.data && <ImportFile job={id} />}
      </section>
    </Shell>
  );
}

const known: Schemas["NewCircuit"]["practice"][] = ["na", "uk", "au", "in", "eu"];

function NewCircuit(props: { job: string; practices: Schemas["Practice"][] }) {
  const [name, setName] = useState("");
  const [picked, setPractice] = useState<string>();
  const settings = useSettings();
  const practice = among(known, picked ?? settings.practice) ?? "na";
  const go = useNavigate();
  const create = useMutation({
    mutationFn: () => take(client.POST("/jobs/{job}/circuits", { params: { path: { job: props.job } }, body: { name, practice } })),
    onSuccess: (circuit) => void go(`/circuits/${circuit.id}/survey`),
  });
  return (
    <LineForm label="New circuit" placeholder="Sail loft stair" name={name} setName={setName} button="Make circuit" make={create}>
      <label className="field">
        <span>Practice</span>
        <select value={practice} onChange={(e) => setPractice(e.target.value)}>
          {props.practices.map((p) => (
            <option key={p.id} value={p.id}>
              {p.name}
            </option>
          ))}
        </select>
      </label>
    </LineForm>
  );
}

function ImportFile(props: { job: string }) {
  const go = useNavigate();
  const read = useMutation({
    mutationFn: (file: File) => take(client.POST("/jobs/{job}/import", { params: { path: { job: props.job } }, ...asFile(file) })),
    onSuccess: (circuit) => void go(`/circuits/${circuit.id}/survey`),
  });
  return <DropFile label="Import a circuit file" accept=".json,application/json" read={read} />;
}

/** Another name for a job. */
function Rename(props: { id: string; name: string }) {
  const queries = useQueryClient();
  const [open, setOpen] = useState(false);
  const [name, setName] = useState(props.name);
  const rename = useMutation({
    mutationFn: () => take(client.PATCH("/jobs/{job}", { params: { path: { job: props.id } }, body: { name } })),
    onSuccess: () => {
      setOpen(false);
      void queries.invalidateQueries({ queryKey: ["jobs"] });
      void queries.invalidateQueries({ queryKey: ["job", props.id] });
    },
  });
  return (
    <Popover.Root
      open={open}
      onOpenChange={(now) => {
        setOpen(now);
        setName(props.name);
      }}
    >
      <Popover.Trigger className="tool" aria-label="Rename this job">
        <Pencil aria-hidden size={18} />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content className="panel w-80" align="end" sideOffset={6} aria-label="Rename this job">
          <LineForm label="Name of the job" placeholder="" name={name} setName={setName} button="Rename" make={rename} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
