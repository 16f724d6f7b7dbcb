import { CircleHelp, Lightbulb, PanelTop, Split, ToggleLeft, type LucideIcon } from "lucide-react";
import type { Schemas } from "../../api/client";
import { useWork } from "./work";
import { look } from "../../ui/look";

const icons: Record<string, LucideIcon> = { panel: PanelTop, switch: ToggleLeft, fixture: Lightbulb, junction: Split };

/** The boxes in the order that power meets them: the way around the circuit. */
export function Strip(props: { stops?: Schemas["Stop"][]; bench: boolean }) {
  const { circuit, box, setBox } = useWork();
  const stops = props.stops ?? circuit.reading.strip;
  if (stops.length === 0) return null;
  return (
    <nav
      className={`strip overflow-x-auto border-b border-rule bg-room print:hidden ${props.bench ? "flex-none px-4 py-1" : `py-3 ${look.gutter}`}`}
      aria-label="Boxes of this circuit, in the order that power meets them"
      tabIndex={0}
    >
      <ol className={props.bench ? "flex min-w-0" : "flex min-w-max"}>
        {stops.map((stop) => {
          const Icon = icons[stop.kind] ?? CircleHelp;
          return (
            <li
              key={stop.box}
              className={`flex items-center not-first:before:border-t-2 not-first:before:border-ink not-first:before:content-[''] ${props.bench ? "min-w-[6.4rem] flex-[0_1_auto] not-first:before:w-3 not-first:before:flex-none" : "not-first:before:w-9"}`}
            >
              <button
                type="button"
                className={`stop cursor-pointer border-ink bg-sheet text-left aria-pressed:bg-ink aria-pressed:text-paper ${stop.known ? "" : "border-dashed"} ${props.bench ? "min-h-[46px] min-w-0 flex-auto border-[1.5px] px-2 py-0.5 leading-tight" : "min-h-13 border-2 px-3 py-1"}`}
                aria-pressed={stop.box === box}
                onClick={() => setBox(stop.box)}
              >
                <span className="stop-name flex items-center gap-1.5 truncate font-[650]">
                  <Icon aria-hidden size={16} /> {stop.label}
                </span>
                <span className={`block truncate ${props.bench ? "text-[0.8rem]" : "text-[0.85rem]"}`}>
                  {stop.holds || (stop.known ? "nothing recorded" : "not opened yet")}
                </span>
              </button>
            </li>
          );
        })}
      </ol>
    </nav>
  );
}
