import { useSearchParams } from "react-router";
import { usePicture } from "../../api/queries";
import { Current } from "../../ui/Current";
import { Notice } from "../../ui/Notice";
import { Tick } from "../../ui/Tick";
import { useWork } from "../circuit/work";
import { Board } from "../drawing/Board";
import { LiveDiagram } from "../drawing/LiveDiagram";
import { Fitted } from "../drawing/Picture";
import { AsSvg } from "./Papers";
import { look } from "../../ui/look";

/** Whether only what changes is drawn: it stands in the address. */
const useOnly = () => useSearchParams()[0].get("only") === "changes";

/** The drawing of what changes alone, the rest thin. */
function useChanges(wanted: boolean) {
  const { circuit } = useWork();
  return usePicture(circuit.id, circuit.revision, { of: "planned", view: "difference", compare: true }, wanted);
}

/** Every conductor before and after, both live and in the same places; or only what changes. On the bench
 * the drawing stands beside it. */
export function WholeWiring({ bench }: { bench: boolean }) {
  const { place } = useWork();
  const only = useOnly();
  return (
    <>
      <div className={`${look.row} px-6 py-2.5 max-sm:px-3.5`}>
        <Tick checked={only} set={(on) => place({ only: on ? "changes" : undefined })}>
          Only what changes, the rest thin
        </Tick>
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
      {bench ? (
        <Moved />
      ) : only ? (
        <Changed />
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
  const drawing = useChanges(true);
  return (
    <section className="live border-b border-rule" aria-label="What changes">
      <Notice error={drawing.error} />
      <div className={look.sheet} role="region" aria-label="What changes: drawing" tabIndex={0}>
        {drawing.data && <Fitted picture={drawing.data} />}
      </div>
    </section>
  );
}

/** Every end that moves, by box: a press shows it on the drawing. */
function Moved() {
  const { circuit, pointed, point } = useWork();
  const boxes = [...new Set(circuit.choice?.changes.map((c) => c.box))];
  return (
    <ul className="grid gap-3 px-4 py-2">
      {boxes.map((box) => (
        <li key={box}>
          <h3>{circuit.document.boxes.find((b) => b.id === box)?.name ?? box}</h3>
          <ul>
            {circuit.choice?.changes
              .filter((c) => c.box === box)
              .map((c) => (
                <li key={c.end} className="border-t border-rule">
                  <button
                    type="button"
                    className="min-h-11 w-full cursor-pointer text-left"
                    aria-pressed={pointed.includes(c.end)}
                    onClick={() => point([c.end])}
                  >
                    {c.text}
                  </button>
                </li>
              ))}
          </ul>
        </li>
      ))}
    </ul>
  );
}

/** On the bench: the circuit as it will be, switched on, with the one as found to draw over it; or only
 * what changes. */
export function WireBoard() {
  const { box, pointed, point } = useWork();
  const only = useOnly();
  const drawing = useChanges(only);
  if (!only) return <LiveDiagram of="planned" heading="As it will be" board compare before />;
  return (
    <section className="live flex min-h-0 min-w-0 flex-col" aria-label="What changes">
      <h2 className="px-4 py-2">What changes</h2>
      <Notice error={drawing.error} />
      {drawing.data && (
        <Current stale={drawing.isPlaceholderData} what="drawn anew" fill>
          <Board picture={drawing.data} label="What changes" seen={{ pointed, box }} acts={{ pick: (end) => point([end]) }} />
        </Current>
      )}
    </section>
  );
}
