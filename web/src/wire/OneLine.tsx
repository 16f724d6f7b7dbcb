import { useDrawing } from "../api/queries";
import { Drawing } from "../circuit/LiveDiagram";
import { useWork } from "../circuit/work";
import { Notice } from "../ui/Notice";
import { AsSvg } from "./Papers";

/** Drawings wider than this stand one above the other. */
const narrow = 600;

/** Before and after in one line each, to explain to somebody who does not wire. */
export function OneLine() {
  const { circuit } = useWork();
  const before = useDrawing(circuit.id, circuit.revision, { of: "found", view: "line" });
  const after = useDrawing(circuit.id, circuit.revision, { of: "planned", view: "line" });
  const width = Math.max(...[before.data, after.data].map((svg) => Number(/viewBox="\S+ \S+ (\S+)/.exec(svg ?? "")?.[1] ?? 0)));
  return (
    <>
      <Notice error={before.error ?? after.error} />
      <div className="row pad">
        <AsSvg query="of=found&view=line" name="one line before">
          Before, SVG
        </AsSvg>
        <AsSvg query="of=planned&view=line" name="one line after">
          After, SVG
        </AsSvg>
      </div>
      <div className={width > narrow ? "pair stacked pad" : "pair pad"}>
        {[
          { heading: "Before", svg: before.data },
          { heading: "After", svg: after.data },
        ].map(({ heading, svg }) => (
          <figure key={heading}>
            <figcaption>{heading}</figcaption>
            <div className="sheet whole" tabIndex={0} role="region" aria-label={`${heading}, single line`}>
              {svg && <Drawing svg={svg} large={false} />}
            </div>
          </figure>
        ))}
      </div>
    </>
  );
}
