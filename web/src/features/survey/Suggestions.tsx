import { useWork } from "../circuit/work";

/** What is often so in this box and nobody recorded: asked, never entered. */
export function Suggestions(props: { box: string }) {
  const { circuit, change, busy } = useWork();
  const asks = circuit.reading.suggestions.filter((s) => s.box === props.box);
  if (asks.length === 0) return null;
  return (
    <ul className="asks" aria-label="Is it so? Look, then confirm">
      {asks.map((ask) => (
        <li key={ask.text}>
          <span>{ask.text}</span>
          <button type="button" className="button small" disabled={busy} onClick={() => change({ do: "edit", edit: ask.edit })}>
            It is so
          </button>
        </li>
      ))}
    </ul>
  );
}
