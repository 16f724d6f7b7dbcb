import { usePicture } from "../../api/queries";
import { Fitted } from "../drawing/Picture";
import { useWork } from "../circuit/work";
import { Notice } from "../../ui/Notice";
import { AsSvg } from "./Papers";
import { Pair } from "../drawing/Pair";
import { look } from "../../ui/look";

/** Drawings wider than this stand one above the other. */
const narrow = 600;

/** Before and after in one line each, to explain to somebody who does not wire. */
export function OneLine() {
  const { circuit } = useWork();
  const before = usePicture(circuit.id, circuit.revision, { of: "found", view: "line" });
  const after = usePicture(circuit.id, circuit.revision, { of: "planned", view: "line" });
  const width = Math.max(before.data?.width ?? 0, after.data?.width ?? 0);
  return (
    <>
      <Notice error={before.error ?? after.error} />
      <div className={`${look.row} px-6 py-2.5 max-sm:px-3.5`}>
        <AsSvg query="of=found&view=line" name="one line before">
          Before, SVG
        </AsSvg>
        <AsSvg query="of=planned&view=line" name="one line after">
          After, SVG
        </AsSvg>
      </div>
      {!(before.data && after.data) && <div className="h-[70dvh]" />}
      {before.data && after.data && (
        <Pair stacked={width > narrow} padded>
          {[
            { heading: "Before", picture: before.data },
            { heading: "After", picture: after.data },
          ].map(({ heading, picture }) => (
            <figure key={heading}>
              <figcaption>{heading}</figcaption>
              <div className={`${look.sheet} max-h-none! border`} tabIndex={0} role="region" aria-label={`${heading}, single line`}>
                {picture && <Fitted picture={picture} />}
              </div>
            </figure>
          ))}
        </Pair>
      )}
    </>
  );
}
