import { useWork } from "../circuit/work";
import { look } from "../../ui/look";

/** What is often so in this box and nobody recorded: asked, never entered. */
export function Suggestions(props: { box: string }) {
  const { circuit, change, busy } = useWork();
  const asks = circuit.reading.suggestions.filter((s) => s.box === props.box);
  if (asks.length === 0) return null;
  return (
    <ul
      className="mb-3 border-l-2 border-dashed border-ink pl-3 [&>li]:flex [&>li]:items-center [&>li]:justify-between [&>li]:gap-3 [&>li]:py-1"
      aria-label="Is it so? Look, then confirm"
    >
      {asks.map((ask) => (
        <li key={ask.text}>
          <span>{ask.text}</span>
          <button type="button" className={look.small} disabled={busy} onClick={() => change({ do: "edit", edit: ask.edit })}>
            It is so
          </button>
        </li>
      ))}
    </ul>
  );
}
