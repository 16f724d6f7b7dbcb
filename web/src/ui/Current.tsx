import type { ReactNode } from "react";

/** What is shown is of an older state while the new one is worked out: it says so, and nothing in
 * it can be done. */
export function Current(props: { stale: boolean; what: string; children: ReactNode }) {
  return (
    <div className={props.stale ? "current stale" : "current"} inert={props.stale} aria-busy={props.stale}>
      {props.stale && (
        <p className="stale-note" role="status">
          Not current: {props.what} …
        </p>
      )}
      {props.children}
    </div>
  );
}
