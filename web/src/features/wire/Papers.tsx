import { useState } from "react";
import { useWork } from "../circuit/work";

/** One drawing as a file that stands alone. */
export function AsSvg(props: { query: string; name: string; children: string }) {
  const { circuit } = useWork();
  return (
    <a
      className="button"
      href={`/api/v1/circuits/${circuit.id}/diagram?file=true&${props.query}`}
      download={`${circuit.document.name}, ${props.name}.svg`}
    >
      {props.children}
    </a>
  );
}

/** What can be printed or taken away, on either paper. */
export function Papers({ chosen }: { chosen: boolean }) {
  const { circuit, practice } = useWork();
  const [asked, setSize] = useState<string>();
  const size = asked ?? practice?.paper ?? "a4";
  const at = `/api/v1/circuits/${circuit.id}`;
  const pdf = (sheet: string) => `${at}/paper/${sheet}?size=${size}`;
  return (
    <div className="papers" role="group" aria-label="On paper and as files">
      <label>
        <span className="sr-only">Paper</span>
        <select className="input small" value={size} onChange={(e) => setSize(e.target.value)}>
          <option value="a4">A4</option>
          <option value="letter">Letter</option>
        </select>
      </label>
      {chosen && <Document href={pdf("order")} strong name="Work order, PDF" />}
      {chosen ? (
        <details className="other-papers">
          <summary>Other documents</summary>
          <div className="row">
            <Document href={pdf("labels")} name="Labels, PDF" />
            <Document href={pdf("planned")} name="Drawings as planned, PDF" />
            <Document href={pdf("drawings")} name="Drawings as found, PDF" />
            <a className="button" href={`${at}/materials`} download="materials.csv">
              Materials, CSV
            </a>
          </div>
        </details>
      ) : (
        <Document href={pdf("drawings")} name="Drawings as found, PDF" />
      )}
    </div>
  );
}

function Document(props: { href: string; name: string; strong?: boolean }) {
  return (
    <a className={props.strong ? "button strong" : "button"} href={props.href} target="_blank" rel="noreferrer">
      {props.name}
    </a>
  );
}
