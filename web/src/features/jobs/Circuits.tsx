import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { Choice } from "../../ui/Choice";
import { Remove } from "../../ui/Remove";
import { look } from "../../ui/look";
import { stages } from "../circuit/stages";

type Summary = Schemas["CircuitSummary"];

const verdicts: Record<Summary["verdict"], string> = {
  works: "works as recorded",
  faulty: "not sound yet",
  unknown: "too large to be gone through",
  empty: "nothing recorded yet",
  unreadable: "cannot be read; its file can still be taken out",
};

/** From so many circuits on they are searched and sorted. */
const many = 5;

const orders: [string, string][] = [
  ["made", "as they were made"],
  ["name", "by name"],
  ["stage", "by what comes next"],
];

const order = (s: Summary) => stages.findIndex((x) => x.id === s.stage);
const stageName = (id: string) => stages.find((x) => x.id === id)?.name ?? id;

const counted = (n: number, one: string, more: string) => `${n} ${n === 1 ? one : more}`;

/** The next stage, and how far the fitting is. */
const next = (c: Summary) => (c.steps > 0 ? `${stageName(c.stage)} ${c.settled} of ${c.steps}` : stageName(c.stage));

/** The circuits of a job, each with what comes next on it: found by words of its name, kept to one stage, sorted. */
export function Circuits(props: { list: Summary[]; practiceName: (id: string) => string; remove: (c: Summary) => void }) {
  const [wanted, setWanted] = useState("");
  const [by, setBy] = useState("made");
  const [stage, setStage] = useState("all");
  const words = wanted.toLocaleLowerCase().split(/\s+/).filter(Boolean);
  const found = props.list.filter(
    (c) => (stage === "all" || c.stage === stage) && words.every((w) => c.name.toLocaleLowerCase().includes(w)),
  );
  const sorted =
    by === "made" ? found : found.toSorted((a, b) => (by === "stage" ? order(a) - order(b) : 0) || a.name.localeCompare(b.name));
  const counts = stages.map((s): [string, number] => [s.id, props.list.filter((c) => c.stage === s.id).length]).filter(([, n]) => n > 0);
  return (
    <>
      {props.list.length >= many && (
        <div className="mt-4 flex flex-wrap items-end gap-x-4 gap-y-1">
          <label className={look.field}>
            <span>Find a circuit</span>
            <input type="search" value={wanted} onChange={(e) => setWanted(e.target.value)} />
          </label>
          <Choice
            label="What comes next"
            quiet
            value={stage}
            options={[
              ["all", `all ${props.list.length} circuits`],
              ...counts.map(([id, n]): [string, string] => [id, `${stageName(id)} next: ${n}`]),
            ]}
            set={setStage}
          />
          <Choice label="Order" quiet value={by} options={orders} set={setBy} />
        </div>
      )}
      {sorted.length === 0 && (
        <p className={look.empty} role="status">
          No circuit matches.
        </p>
      )}
      <ol className={look.index}>
        {sorted.map((c) => (
          <li key={c.id}>
            <Link to={`/circuits/${c.id}/survey`}>{c.name}</Link>
            <span className={look.leader} aria-hidden />
            <span className={look.aside}>
              {verdicts[c.verdict]}
              {c.boxes > 0 && ` · ${counted(c.boxes, "box", "boxes")}, ${counted(c.controls, "control", "controls")}`}
              {c.practice && ` · ${props.practiceName(c.practice)}`}
            </span>
            {c.verdict !== "unreadable" && (
              <span className="w-32 shrink-0 text-right max-sm:w-auto">
                <Link className={`${look.small} ml-0!`} to={`/circuits/${c.id}/${c.stage}`} aria-label={`${next(c)} is next for ${c.name}`}>
                  {next(c)}
                </Link>
              </span>
            )}
            <Remove
              what={c.name}
              warning={`Remove the circuit ${c.name} with all its revisions? It lies in the bin for 30 days.`}
              onRemove={() => props.remove(c)}
            />
          </li>
        ))}
      </ol>
    </>
  );
}
