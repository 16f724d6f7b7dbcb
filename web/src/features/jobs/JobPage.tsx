import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Archive, ArchiveRestore, Copy, Download, FileStack, FileText, Pencil } from "lucide-react";
import { Popover } from "radix-ui";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { asFile, client, take, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { practiceIds } from "../../api/terms.gen";
import { useJob, usePractices } from "../../api/queries";
import { DropFile } from "../../ui/DropFile";
import { Hint } from "../../ui/Hint";
import { LineForm } from "../../ui/LineForm";
import { Notice, Waiting } from "../../ui/Notice";
import { Remove } from "../../ui/Remove";
import { Shell, Trail } from "../../ui/Shell";
import { among } from "../../ui/among";
import { fileName } from "../../ui/fileName";
import { useToast } from "../../ui/Toasts";
import { useSettings } from "../../ui/settings";
import { Choice } from "../../ui/Choice";
import { Circuits } from "./Circuits";
import { CustomerForm } from "./CustomerForm";
import { Together } from "./Together";
import { look } from "../../ui/look";
import { Tool } from "../../ui/Tool";

export function JobPage() {
  const id = useParams().job ?? "";
  const job = useJob(id);
  const practices = usePractices();
  const queries = useQueryClient();
  const go = useNavigate();
  const say = useToast();
  const removeJob = useMutation({
    onMutate: () => queries.cancelQueries({ predicate: (q) => q.queryKey[1] === id }), // what is asked of it would find nothing
    mutationFn: () => take(client.DELETE("/jobs/{job}", { params: { path: { job: id } } })),
    onSuccess: () => {
      void queries.invalidateQueries({ queryKey: keys.jobs() });
      void go("/");
      say({ text: `${job.data?.name ?? "The job"} lies in the bin.`, undo: () => restoreJob.mutate() });
    },
  });
  const restoreJob = useMutation({
    mutationFn: () => take(client.POST("/jobs/{job}/restore", { params: { path: { job: id } } })),
    onSettled: () => void queries.invalidateQueries({ queryKey: keys.jobs() }),
  });
  const removeCircuit = useMutation({
    mutationFn: ({ id: circuit }: { id: string; name: string }) =>
      take(client.DELETE("/circuits/{circuit}", { params: { path: { circuit } } })),
    onSuccess: (_, c) => say({ text: `${c.name} lies in the bin.`, undo: () => restoreCircuit.mutate(c.id) }),
    onSettled: () => void queries.invalidateQueries({ queryKey: keys.job(id) }),
  });
  const restoreCircuit = useMutation({
    mutationFn: (circuit: string) => take(client.POST("/circuits/{circuit}/restore", { params: { path: { circuit } } })),
    onSettled: () => void queries.invalidateQueries({ queryKey: keys.job(id) }),
  });
  const archive = useMutation({
    mutationFn: (archived: boolean) => take(client.PATCH("/jobs/{job}", { params: { path: { job: id } }, body: { archived } })),
    onSuccess: (now) => {
      void queries.invalidateQueries({ queryKey: keys.jobs() });
      void queries.invalidateQueries({ queryKey: keys.job(id) });
      say({
        text: now.archived ? `${now.name} stands among those that are over.` : `${now.name} is worked on again.`,
        undo: () => archive.mutate(!now.archived),
      });
    },
  });
  const copy = useMutation({
    mutationFn: () => take(client.POST("/jobs/{job}/copy", { params: { path: { job: id } } })),
    onSuccess: ({ job: made }) => {
      void queries.invalidateQueries({ queryKey: keys.jobs() });
      void go(`/jobs/${made.id}`);
    },
  });
  const known = job.data && practices.data;
  const practiceName = (p: string) => practices.data?.find((x) => x.id === p)?.name ?? p;
  return (
    <Shell title={job.data?.name ?? "Job"} trail={<Trail>{job.data?.name}</Trail>}>
      <section className={look.page}>
        <div className="flex flex-wrap items-start gap-x-4">
          <h1 className="min-w-0 flex-1 basis-64">{job.data?.name ?? "Job"}</h1>
          {job.data && (
            <div className="flex flex-wrap">
              <Hint text="Export the whole job">
                <a
                  className={look.tool}
                  href={`/api/v1/jobs/${id}/archive`}
                  download={`${fileName(job.data.name)}.zip`}
                  aria-label="Export the whole job, with its history and photographs"
                >
                  <Download aria-hidden size={18} />
                </a>
              </Hint>
              <Hint text="The record, for the customer">
                <a
                  className={look.tool}
                  href={`/api/v1/jobs/${id}/record`}
                  target="_blank"
                  rel="noreferrer"
                  aria-label="The record, for the customer"
                >
                  <FileText aria-hidden size={18} />
                </a>
              </Hint>
              <Hint text="The record with its annex">
                <a
                  className={look.tool}
                  href={`/api/v1/jobs/${id}/record?annex=true`}
                  target="_blank"
                  rel="noreferrer"
                  aria-label="The record with its annex: gates, steps, readings, the way back"
                >
                  <FileStack aria-hidden size={18} />
                </a>
              </Hint>
              <Rename id={id} name={job.data.name} />
              <Tool
                icon={job.data.archived ? ArchiveRestore : Archive}
                label={job.data.archived ? "Work on this job again" : "Put this job away: it is over"}
                disabled={archive.isPending}
                onClick={() => archive.mutate(job.data?.archived !== true)}
              />
              <Tool icon={Copy} label="Make a copy of this job" disabled={copy.isPending} onClick={() => copy.mutate()} />
              <Remove
                what="this job"
                warning={`Remove ${job.data.name} with all its circuits? It lies in the bin for 30 days.`}
                onRemove={() => removeJob.mutate()}
              />
            </div>
          )}
        </div>
        {job.data?.archived && <p className="text-soft">It is over.</p>}
        <Notice error={job.error ?? practices.error ?? removeJob.error ?? removeCircuit.error ?? copy.error ?? archive.error} />
        {(job.isPending || practices.isPending) && <Waiting what="Reading the job" />}
        {job.data?.circuits.length === 0 && (
          <p className={look.empty}>
            No circuit yet. A circuit is one light with its switches: name it by what it lights, and say in which practice the house is
            wired.
          </p>
        )}
        {known && job.data.circuits.length > 0 && (
          <Circuits list={job.data.circuits} practiceName={practiceName} remove={(c) => removeCircuit.mutate(c)} />
        )}
        {known && job.data.circuits.length > 1 && <Together job={id} circuits={job.data.circuits} />}
        {known && <NewCircuit job={id} practices={practices.data} />}
        {known && <ImportFile job={id} />}
        {known && <CustomerForm job={id} />}
      </section>
    </Shell>
  );
}

function NewCircuit(props: { job: string; practices: Schemas["Practice"][] }) {
  const [name, setName] = useState("");
  const [picked, setPractice] = useState<string>();
  const settings = useSettings();
  const practice = among(practiceIds, picked ?? settings.practice) ?? practiceIds[0];
  const go = useNavigate();
  const create = useMutation({
    mutationFn: () => take(client.POST("/jobs/{job}/circuits", { params: { path: { job: props.job } }, body: { name, practice } })),
    onSuccess: (circuit) => void go(`/circuits/${circuit.id}/survey`),
  });
  return (
    <LineForm label="New circuit" placeholder="Sail loft stair" name={name} setName={setName} button="Make circuit" make={create}>
      <Choice above label="Practice" value={practice} options={props.practices.map((p) => [p.id, p.name])} set={setPractice} />
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
      void queries.invalidateQueries({ queryKey: keys.jobs() });
      void queries.invalidateQueries({ queryKey: keys.job(props.id) });
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
      <Popover.Trigger asChild>
        <Tool icon={Pencil} label="Rename this job" />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content className={`${look.popover} w-80`} align="end" sideOffset={6} aria-label="Rename this job">
          <LineForm label="Name of the job" placeholder="" name={name} setName={setName} button="Rename" make={rename} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
