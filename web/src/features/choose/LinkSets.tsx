import { Check, X } from "lucide-react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { useLinks } from "../../api/rehearsal";
import { look } from "../../ui/look";
import { useWork } from "../circuit/work";

/** The ways in which the links of an option can be made; of one that is flawed, how that comes about. */
export function LinkSets({ option }: { option: string }) {
  const { circuit } = useWork();
  const links = useLinks(circuit.id, circuit.revision, option, true);
  if (!links.data || links.data.length === 0) return null;
  return (
    <section aria-label="Links and rules">
      <h3>Links and rules</h3>
      <ul>
        {links.data.map((s) => (
          <li key={s.kind} className="border-t border-rule py-2">
            <div className="flex flex-wrap items-center gap-2">
              {s.report.verdict === "sound" ? <Check aria-hidden size={18} /> : <X aria-hidden size={18} />}
              <strong>{s.title}</strong>
              <span>
                {s.report.verdict}
                {s.preferred ? ", preferred" : ""} · {size(s)}
              </span>
              <Link className={look.small} to={`/circuits/${circuit.id}/rehearse?option=${encodeURIComponent(option)}&set=${s.kind}`}>
                Rehearse
              </Link>
            </div>
            <p>{s.text}</p>
            {s.report.properties
              .filter((p) => !p.holds)
              .map((p) => (
                <p key={p.code} className="border-l-2 border-dotted border-soft pl-3">
                  {p.text}
                </p>
              ))}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** How much is entered for a set. */
function size(s: Schemas["LinkSet"]) {
  const parts = [
    ...(s.rules > 0 ? [`${s.rules} rules`] : []),
    ...(s.mirrors > 0 ? [s.mirrors === 1 ? "1 mirror" : `${s.mirrors} mirrors`] : []),
    ...(s.tried ? [`of ${s.tried} sets tried`] : []),
  ];
  return parts.length > 0 ? parts.join(", ") : "no rule";
}
