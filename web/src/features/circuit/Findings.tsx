import { CircleAlert, Info, OctagonAlert } from "lucide-react";
import type { Finding, Schemas } from "../../api/client";
import { Fold } from "../../ui/Fold";
import { useWork } from "./work";
import { look } from "../../ui/look";

const marks = {
  error: { Icon: OctagonAlert, word: "To mend" },
  warning: { Icon: CircleAlert, word: "To look at" },
  note: { Icon: Info, word: "To know" },
} as const;

/** How much a finding weighs, as the line beside it. */
const weights = {
  error: "border-l-5 border-ink",
  warning: "border-l-5 border-double border-ink",
  note: "border-l-2 border-dotted border-soft",
} as const;

/** How many facts stand in sight; the others are folded. */
const inSight = 3;

/** What was understood, and what is missing or odd. */
export function Findings() {
  const { circuit } = useWork();
  const { understood, report, findings } = circuit.reading;
  return (
    <section className={look.chapter} aria-label="What was understood">
      <h2>Understood</h2>
      {understood.length === 0 ? (
        <p className="text-soft">Not enough is recorded yet to say what this circuit does.</p>
      ) : (
        <Facts texts={understood.slice(0, inSight)} />
      )}
      {understood.length > inSight && (
        <Fold title={`${understood.length - inSight} more`}>
          <Facts texts={understood.slice(inSight)} />
        </Fold>
      )}
      {findings.length > 0 && (
        <>
          <h2>Missing or odd</h2>
          <ul className="findings">
            {findings.map((alike) => (
              <Alike key={alike.of.join()} alike={alike} findings={alike.of.flatMap((i) => report.findings[i] ?? [])} />
            ))}
          </ul>
        </>
      )}
    </section>
  );
}

function Facts({ texts }: { texts: string[] }) {
  return (
    <ul className={look.dashes}>
      {texts.map((text) => (
        <li key={text}>{text}</li>
      ))}
    </ul>
  );
}

/** Findings of one kind in a line; each of several is a line of its own underneath, when it is asked for. */
function Alike({ alike, findings }: { alike: Schemas["Alike"]; findings: Finding[] }) {
  const { pointed } = useWork();
  const { Icon, word } = marks[alike.severity];
  const at = findings.flatMap((f) => f.at);
  const [first] = findings;
  const one = findings.length === 1;
  return (
    <li
      className={`finding mt-1.5 flex gap-2.5 py-2 pl-3 aria-[current=true]:bg-room ${weights[alike.severity]}`}
      aria-current={at.some((end) => pointed.includes(end)) || undefined}
    >
      <Icon aria-hidden size={18} className="shrink-0" />
      <div className="min-w-0 flex-1">
        <p>
          <strong>{word}:</strong> {alike.text}
        </p>
        {one && first && <Advice of={first} />}
        {!one && (
          <Fold title="Each of them">
            <ul className="grid gap-2 pb-2">
              {findings.map((f) => (
                <li key={f.text} className="flex gap-2" aria-current={f.at.some((end) => pointed.includes(end)) || undefined}>
                  <div className="min-w-0 flex-1">
                    <p>{f.text}</p>
                    <Advice of={f} />
                  </div>
                  {f.at.length > 0 && <Show ends={f.at} />}
                </li>
              ))}
            </ul>
          </Fold>
        )}
      </div>
      {at.length > 0 && <Show ends={at} />}
    </li>
  );
}

/** Points at ends, in the drawing and in their box. */
function Show({ ends }: { ends: string[] }) {
  const { point } = useWork();
  return (
    <button type="button" className={look.small} onClick={() => point(ends)}>
      Show
    </button>
  );
}

function Advice({ of }: { of: Finding }) {
  return (
    <>
      {of.lines && (
        <ul className="py-1 text-[0.92rem] tabular-nums">
          {of.lines.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      )}
      {of.advice && <p className="text-soft">{of.advice}</p>}
    </>
  );
}
