import { useState } from "react";
import { useWork } from "../circuit/work";

/** What can be printed or taken away, on either paper. */
export function Papers({ chosen }: { chosen: boolean }) {
  const { circuit } = useWork();
  const [size, setSize] = useState(circuit.document.practice === "na" ? "letter" : "a4");
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
      {chosen && (
        <>
          <a className="button strong" href={pdf("order")} target="_blank" rel="noreferrer">
            Work order, PDF
          </a>
          <a className="button" href={pdf("labels")} target="_blank" rel="noreferrer">
            Labels, PDF
          </a>
          <a className="button" href={`${at}/materials`} download="materials.csv">
            Materials, CSV
          </a>
        </>
      )}
      <a className="button" href={pdf("drawings")} target="_blank" rel="noreferrer">
        Drawings as found, PDF
      </a>
    </div>
  );
}
