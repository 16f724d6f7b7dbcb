import { useEffect, useRef, type ReactNode } from "react";

/** What is shown is of an older state while the new one is worked out: it says so, and nothing in
 * it can be done. What had the focus when it went stale gets it back. */
export function Current(props: { stale: boolean; what: string; fill?: boolean; children: ReactNode }) {
  const last = useRef<HTMLElement | null>(null);
  useEffect(() => {
    if (!props.stale && document.activeElement === document.body && last.current?.isConnected) last.current.focus({ preventScroll: true });
  }, [props.stale]);
  return (
    <div
      className={["current", props.stale && "stale opacity-55 [.stale_&]:opacity-100", props.fill && "flex min-h-0 flex-1 flex-col"]
        .filter(Boolean)
        .join(" ")}
      inert={props.stale}
      aria-busy={props.stale}
      onFocus={(e) => (last.current = e.target)}
      onBlur={(e) => {
        if (e.relatedTarget) last.current = null; // it went elsewhere by itself
      }}
    >
      {props.stale && (
        <p className="border border-dashed border-current px-2 py-1" role="status">
          Not current: {props.what} …
        </p>
      )}
      {props.children}
    </div>
  );
}
