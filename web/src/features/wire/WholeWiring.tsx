import { useState } from "react";
import { usePicture } from "../../api/queries";
import { LiveDiagram } from "../drawing/LiveDiagram";
import { Fitted } from "../drawing/Picture";
import { useWork } from "../circuit/work";
import { Notice } from "../../ui/Notice";
import { AsSvg } from "./Papers";

/** Every conductor before and after, both live and in the same places; or only what changes. */
export function WholeWiring() {
  const { circuit } = useWork();
  const [only, setOnly] = useState(false);
  return (
    <>
      <div className="row pad">
        <label className="tick">
          <input type="checkbox" checked={only} onChange={(e) => setOnly(e.target.checked)} />
          Only what changes, the rest thin
        </label>
        <AsSvg query="of=found" name="before">
          Before, SVG
        </AsSvg>
        <AsSvg query="of=planned&compare=true" name="after">
          After, SVG
        </AsSvg>
        <AsSvg query="of=planned&compare=true&view=difference" name="changes">
          Changes, SVG
        </AsSvg>
      </div>
      {only ? (
        <Changed key={circuit.revision} />
      ) : (
        <>
          <LiveDiagram of="found" heading="Before" keys={false} compare />
          <LiveDiagram of="planned" heading="After" compare />
        </>
      )}
    </>
  );
}

function Changed() {
  const { circuit } = useWork();
  const drawing = usePicture(circuit.id, circuit.revision, { of: "planned", view: "difference", compare: true });
  return (
    <section className="live" aria-label="What changes">
      <Notice error={drawing.error} />
      <div className="sheet" role="region" aria-label="What changes: drawing" tabIndex={0}>
        {drawing.data && <Fitted picture={drawing.data} />}
      </div>
    </section>
  );
}
