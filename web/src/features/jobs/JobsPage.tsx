import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { asFile, client, take } from "../../api/client";
import { useJobs } from "../../api/queries";
import { DropFile } from "../../ui/DropFile";
import { LineForm } from "../../ui/LineForm";
import { Notice, Waiting } from "../../ui/Notice";
import { Shell } from "../../ui/Shell";

export function JobsPage() {
  const jobs = useJobs();
  return (
    <Shell title="Jobs">
      <section className="page">
        <h1>Jobs</h1>
        <p className="lead">Record what the open boxes show, see the circuit work, choose what these conductors can carry, wire it.</p>
        <NewJob />
        <Notice error={jobs.error} />
        {jobs.isPending && <Waiting what="Reading the jobs" />}
        {jobs.data?.length === 0 && <p className="empty">No job yet. Name one above: the place, or the customer’s order.</p>}
        {jobs.data && jobs.data.length > 0 && (
          <ol className="index">
            {jobs.data.map((job) => (
              <li key={job.id}>
                <Link to={`/jobs/${job.id}`}>{job.name}</Link>
                <span className="leader" aria-hidden />
                <span className="quiet">
                  {job.circuits === 1 ? "1 circuit" : `${job.circuits} circuits`} · since{" "}
                  {new Date(job.created).toLocaleDateString(undefined, { dateStyle: "medium" })}
                </span>
              </li>
            ))}
          </ol>
        )}
        <ImportJob />
        <p className="mt-6">
          <Link to="/devices">Device models</Link> <span className="quiet">that plans are made of, and your own</span>
        </p>
        <p>
          <Link to="/bin">Bin</Link> <span className="quiet">what was removed in the last 30 days</span>
        </p>
      </section>
    </Shell>
  );
}

function ImportJob() {
  const go = useNavigate();
  const queries = useQueryClient();
  const read = useMutation({
    mutationFn: (file: File) => take(client.POST("/import", asFile(file))),
    onSuccess: ({ job, lost }) => {
      void queries.invalidateQueries({ queryKey: ["jobs"] });
      if (lost.length === 0) void go(`/jobs/${job.id}`);
    },
  });
  return (
    <>
      <DropFile label="Import a job archive" accept=".zip,.json,application/zip,application/json" read={read} />
      {read.data && read.data.lost.length > 0 && (
        <div className="notice" role="alert">
          <p>{read.data.job.name} was read, but for:</p>
          <ul>
            {read.data.lost.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
          <Link className="button" to={`/jobs/${read.data.job.id}`}>
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
      void queries.invalidateQueries({ queryKey: ["jobs"] });
      void go(`/jobs/${job.id}`);
    },
  });
  return (
    <LineForm label="New job" placeholder="Tide mill, mill house stairs" name={name} setName={setName} button="Make job" make={create} />
  );
}
