import { CircleAlert } from "lucide-react";
import type { ReactNode } from "react";
import { ProblemError } from "../api/client";
import { look } from "./look";

/** What went wrong, in its own words, with the place and the way on. */
export function Notice(props: { error: unknown; children?: ReactNode }) {
  if (!props.error) return null;
  const problem = props.error instanceof ProblemError ? props.error.problem : undefined;
  return (
    <div className={look.notice} role="alert">
      <CircleAlert aria-hidden size={20} className="shrink-0" />
      <div>
        <p className="font-semibold">{problem?.detail ?? "This page failed here. Reload it; what was saved is not lost."}</p>
        {problem?.problems && problem.problems.length > 1 && (
          <ul className="list-disc pl-5">
            {problem.problems.slice(1, 8).map((p) => (
              <li key={p.place + p.text}>
                {p.line ? `line ${p.line}, ` : ""}
                {p.place}: {p.text}
              </li>
            ))}
          </ul>
        )}
        {problem?.changed && problem.changed.length > 0 && (
          <ul className="list-disc pl-5">
            {problem.changed.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
        )}
        {props.children}
      </div>
    </div>
  );
}

export function Waiting(props: { what: string }) {
  return (
    <p className={`${look.page} text-soft`} role="status">
      {props.what} …
    </p>
  );
}
