import { Link } from "react-router";
import type { Option } from "../../api/client";
import { useWork } from "../circuit/work";
import { look } from "../../ui/look";

/** The tests that a plan still needs, or that nothing is left to test. */
export function TestsFirst({ option }: { option: Option }) {
  const { circuit, point } = useWork();
  const traced = (circuit.document.observations?.length ?? 0) > 0 || (circuit.document.evidence?.length ?? 0) > 0;
  if (option.relies.length === 0) {
    return traced ? <p>Nothing left to test for this plan.</p> : null;
  }
  return (
    <section aria-label="Test first" className="border-l-5 border-ink pl-4">
      <h3>{option.relies.length === 1 ? "Test this first" : `Test these ${option.relies.length} first`}</h3>
      <ol className="grid list-decimal gap-2 pl-5">
        {option.relies.map((r) => (
          <li key={r.say}>
            <button type="button" className="min-h-11 cursor-pointer text-left" onClick={() => point(r.at)}>
              {r.say}
            </button>
            <p className="text-soft">
              {r.text} If not: {r.otherwise.text}
            </p>
          </li>
        ))}
      </ol>
      {!circuit.choice && (
        <Link
          className={look.button}
          to={{ pathname: `/circuits/${circuit.id}/trace`, search: `?toward=${encodeURIComponent(option.id)}` }}
        >
          Trace what this plan needs
        </Link>
      )}
    </section>
  );
}
