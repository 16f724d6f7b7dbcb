import { CircleHelp, Lightbulb, PanelTop, Split, ToggleLeft, type LucideIcon } from "lucide-react";
import type { Schemas } from "../../api/client";
import { useWork } from "./work";

const icons: Record<string, LucideIcon> = { panel: PanelTop, switch: ToggleLeft, fixture: Lightbulb, junction: Split };

/** The boxes in the order that power meets them: the way around the circuit. */
export function Strip(props: { stops?: Schemas["Stop"][] }) {
  const { circuit, box, setBox } = useWork();
  const stops = props.stops ?? circuit.reading.strip;
  if (stops.length === 0) return null;
  return (
    <nav className="strip" aria-label="Boxes of this circuit, in the order that power meets them" tabIndex={0}>
      <ol>
        {stops.map((stop) => {
          const Icon = icons[stop.kind] ?? CircleHelp;
          return (
            <li key={stop.box}>
              <button
                type="button"
                className={stop.known ? "stop" : "stop unknown"}
                aria-pressed={stop.box === box}
                onClick={() => setBox(stop.box)}
              >
                <span className="stop-name">
                  <Icon aria-hidden size={16} /> {stop.label}
                </span>
                <span className="stop-holds">{stop.holds || (stop.known ? "nothing recorded" : "not opened yet")}</span>
              </button>
            </li>
          );
        })}
      </ol>
    </nav>
  );
}
