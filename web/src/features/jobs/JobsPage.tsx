import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { asFile, client, take, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useJobs } from "../../api/queries";
import { Choice } from "../../ui/Choice";
import { DropFile } from "../../ui/DropFile";
import { Fold } from "../../ui/Fold";
import { LineForm } from "../../ui/LineForm";
import { Notice, Waiting } from "../../ui/Notice";
import { Shell } from "../../ui/Shell";
import { useDates } from "../../ui/settings";
import { look } from "../../ui/look";

export function JobsPage() {
  const jobs = useJobs();
  return (
    <Shell title="Jobs">
      <section className={look.page}>
        <h1>Jobs</h1>
        <p className={look.lead}>Record what the open boxes show, see the circuit work, choose what these conductors can carry, wire it.</p>
        <NewJob />
        <Notice error={jobs.error} />
        {jobs.isPending && <Waiting what="Reading the jobs" />}
        {jobs.data?.length === 0 && <p className={look.empty}>No job yet. Name one above: the place, or the customer’s order.</p>}
        {jobs.data && jobs.data.length > 0 && <Index jobs={jobs.data} />}
        <ImportJob />
        <p className="mt-6">
          <Link to="/devices">Device models</Link> <span className="text-soft">that plans are made of, and your own</span>
        </p>
        <p>
          <Link to="/firm">Firm</Link> <span className="text-soft">at the head of every record</span>
        </p>
        <p>
          <Link to="/bin">Bin</Link> <span className="text-soft">what was removed in the last 30 days</span>
        </p>
      </section>
    </Shell>
  );
}

/** From so many jobs on they are searched and sorted. */
const many = 2;

const orders: [string, string][] = [
  ["new", "newest first"],
  ["old", "oldest first"],
  ["name", "by name"],
];

/** The jobs, searched by name and sorted. */
function Index({ jobs }: { jobs: Schemas["Job"][] }) {
  const [wanted, setWanted] = useState("");
  const [order, setOrder] = useState("new");
  const words = wanted.toLocaleLowerCase().split(/\s+/).filter(Boolean);
  const found = jobs.filter((j) => words.every((w) => j.name.toLocaleLowerCase().includes(w)));
  const sorted =
    order === "name"
      ? found.sort((a, b) => a.name.localeCompare(b.name))
      : found.sort((a, b) => a.created.localeCompare(b.created) * (order === "old" ? 1 : -1));
  const over = sorted.filter((j) => j.archived);
  return (
    <>
      {jobs.length >= many && (
        <div className="mt-4 flex flex-wrap items-end gap-x-4 gap-y-1">
          <label className={look.field}>
            <span>Find a job</span>
            <input type="search" value={wanted} onChange={(e) => setWanted(e.target.value)} />
          </label>
          <Choice label="Order" quiet value={order} options={orders} set={setOrder} />
        </div>
      )}
      <List jobs={sorted.filter((j) => !j.archived)} />
      {sorted.length === 0 && (
        <p className={look.empty} role="status">
          No job is called so.
        </p>
      )}
      {over.length > 0 && (
        <Fold section open={words.length > 0} title={`${over.length} ${over.length === 1 ? "job is" : "jobs are"} over`}>
          <List jobs={over} />
        </Fold>
      )}
    </>
  );
}

function List({ jobs }: { jobs: Schemas["Job"][] }) {
  const written = useDates();
  if (jobs.length === 0) return null;
  return (
    <ol className={look.index}>
      {jobs.map((job) => (
        <li key={job.id}>
          <Link to={`/jobs/${job.id}`}>{job.name}</Link>
          <span className={look.leader} aria-hidden />
          <span className={look.aside}>
            {job.circuits === 1 ? "1 circuit" : `${job.circuits} circuits`} · since {written(job.created)}
          </span>
        </li>
      ))}
    </ol>
  );
}

function ImportJob() {
  const go = useNavigate();
  const queries = useQueryClient();
  const read = useMutation({
    mutationFn: (file: File) => take(client.POST("/import", asFile(file))),
    onSuccess: ({ job, lost }) => {
      void queries.invalidateQueries({ queryKey: keys.jobs() });
      if (lost.length === 0) void go(`/jobs/${job.id}`);
    },
  });
  return (
    <>
      <DropFile label="Import a job archive" accept=".zip,.json,application/zip,application/json" read={read} />
      {read.data && read.data.lost.length > 0 && (
        <div className={look.notice} role="alert">
          <p>{read.data.job.name} was read, but for:</p>
          <ul>
            {read.data.lost.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
          <Link className={look.button} to={`/jobs/${read.data.job.id}`}>
            Open the job
          </Link>
        </div>
      )}
    </>
  );
}

function NewJob() {
  const [name, setName] = useState("");
  const go = useNavigate();
  const queries = useQueryClient();
  const create = useMutation({
    mutationFn: () => take(client.POST("/jobs", { body: { name } })),
    onSuccess: (job) => {
      void queries.invalidateQueries({ queryKey: keys.jobs() });
      void go(`/jobs/${job.id}`);
    },
  });
  return (
    <LineForm label="New job" placeholder="Tide mill, mill house stairs" name={name} setName={setName} button="Make job" make={create} />
  );
}
