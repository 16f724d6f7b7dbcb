import { CircleAlert, Info, OctagonAlert } from "lucide-react";
import type { Finding } from "../../api/client";
import { useWork } from "./work";

const marks = {
  error: { Icon: OctagonAlert, word: "To mend" },
  warning: { Icon: CircleAlert, word: "To look at" },
  note: { Icon: Info, word: "To know" },
} as const;

/** What was understood, and what is missing or odd. */
export function Findings() {
  const { circuit } = useWork();
  const { understood, report } = circuit.reading;
  return (
    <section className="block" aria-label="What was understood">
      <h2>Understood</h2>
      {understood.length === 0 ? (
        <p className="quiet">Not enough is recorded yet to say what this circuit does.</p>
      ) : (
        <ul className="understood">
          {understood.map((text) => (
            <li key={text}>{text}</li>
          ))}
        </ul>
      )}
      {report.findings.length > 0 && (
        <>
          <h2>Missing or odd</h2>
          <ul className="findings">
            {report.findings.map((f, i) => (
              <FindingRow key={f.code + i} finding={f} />
            ))}
          </ul>
        </>
      )}
    </section>
  );
}

function FindingRow({ finding }: { finding: Finding }) {
  const { point, pointed } = useWork();
  const { Icon, word } = marks[finding.severity];
  const meant = finding.at.some((end) => pointed.includes(end));
  return (
    <li className={`finding ${finding.severity}`} aria-current={meant || undefined}>
      <Icon aria-hidden size={18} className="shrink-0" />
      <div>
        <p>
          <strong>{word}:</strong> {finding.text}
        </p>
        {finding.lines && (
          <ul className="count">
            {finding.lines.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        )}
        {finding.advice && <p className="quiet">{finding.advice}</p>}
      </div>
      {finding.at.length > 0 && (
        <button type="button" className="button small" onClick={() => point(finding.at)}>
          Show
        </button>
      )}
    </li>
  );
}
