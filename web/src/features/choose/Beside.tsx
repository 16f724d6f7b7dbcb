import { useEffect, useRef } from "react";
import type { Option } from "../../api/client";
import { useOptionDiagram } from "../../api/queries";
import { Notice } from "../../ui/Notice";
import { Fitted } from "../drawing/Picture";
import { useWork } from "../circuit/work";

/** Drawings wider than this stand one above the other. */
const wide = 900;

/** The drawing of an option beside today's, both in the same places and scrolled together. */
export function Beside({ option, close }: { option: Option; close: () => void }) {
  const { circuit } = useWork();
  const top = useRef<HTMLElement>(null);
  const sheets = useRef<(HTMLElement | null)[]>([]);
  const today = useOptionDiagram(circuit.id, circuit.revision, "found", option.id);
  const then = useOptionDiagram(circuit.id, circuit.revision, "planned", option.id);
  useEffect(() => {
    top.current?.scrollIntoView({ block: "nearest" });
    top.current?.focus({ preventScroll: true });
  }, [option.id]);
  const width = then.data?.width ?? 0;
  const together = (from: HTMLElement) => {
    for (const other of sheets.current) {
      if (other && other !== from && Math.abs(other.scrollLeft - from.scrollLeft) > 1) other.scrollLeft = from.scrollLeft;
    }
  };
  return (
    <section className="beside" aria-label={`Shown: ${option.title}`} ref={top} tabIndex={-1}>
      <div className="block-head">
        <h2>{option.title}</h2>
        <button type="button" className="button" onClick={close}>
          Hide the drawings
        </button>
      </div>
      <p className="quiet">The strip above shows what each box would hold. Ends that are joined differently carry ◇.</p>
      <Notice error={today.error ?? then.error} />
      <div className={width > wide ? "pair stacked" : "pair"}>
        {[
          { heading: "Today", picture: today.data },
          { heading: "With it", picture: then.data },
        ].map(({ heading, picture }, i) => (
          <figure key={heading}>
            <figcaption>{heading}</figcaption>
            <div
              className="sheet"
              tabIndex={0}
              role="region"
              aria-label={`Drawing: ${heading}`}
              ref={(el) => {
                sheets.current[i] = el;
              }}
              onScroll={(e) => together(e.currentTarget)}
            >
              {picture && <Fitted picture={picture} />}
            </div>
          </figure>
        ))}
      </div>
    </section>
  );
}
