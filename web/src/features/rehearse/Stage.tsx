import { Lightbulb, LightbulbOff } from "lucide-react";
import type { Schemas } from "../../api/client";
import type { Shown } from "../../api/rehearsal";
import { Choice } from "../../ui/Choice";
import { Place } from "./Place";
import { UnderWay } from "./UnderWay";

type Where = Shown["places"][number];

function Lit({ name, lit }: { name: string; lit: boolean }) {
  const Lamp = lit ? Lightbulb : LightbulbOff;
  return (
    <span className="flex items-center gap-2">
      <Lamp aria-hidden size={34} /> {name} {lit ? "lit" : "dark"}
    </span>
  );
}

/** The light, what messages go over, and the places as paddles below it. */
export function Stage(props: {
  now: Shown;
  rehearsal: Schemas["Rehearsal"];
  down: string;
  setDown: (to: string) => void;
  busy: boolean;
  pace: string;
  setPace: (to: string) => void;
  name: (device: string) => string;
  press: (place: Where, gesture: Where["gestures"][number]) => void;
  arrive: (way: string, fate?: "lost" | "twice") => void;
  all: () => void;
}) {
  const { now, busy } = props;
  const { ways, speakers, start } = props.rehearsal;
  return (
    <div className="grid grid-cols-1 gap-3 border border-ink bg-sheet p-3">
      <div className="flex flex-wrap items-center justify-between gap-x-6 gap-y-2">
        <div role="status" className="flex flex-wrap gap-x-6 gap-y-1 text-xl font-semibold">
          {(now.lights ?? [{ name: "", lit: now.lit }]).map((light) => (
            <Lit key={light.name} name={light.name ? `${light.name}:` : "The light is"} lit={light.lit} />
          ))}
        </div>
        {ways.length > 0 && (
          <Choice
            label="Down"
            value={props.down}
            options={[
              ["", "nothing"],
              ...ways.map((w): [string, string] => [w, w === "cloud" ? "the cloud, or the internet" : `the ${w}`]),
              ...start.places.map((p): [string, string] => [p.device, `${p.name}: no battery, or starting anew`]),
            ]}
            set={props.setDown}
          />
        )}
      </div>
      <div>
        {ways.length > 0 && (
          <UnderWay
            now={now}
            ways={ways}
            down={props.down}
            busy={busy}
            name={props.name}
            pace={props.pace}
            setPace={props.setPace}
            arrive={props.arrive}
            all={props.all}
          />
        )}
        <ul className="grid grid-cols-[repeat(auto-fit,minmax(9.5rem,1fr))] gap-x-3 gap-y-4" aria-label="Places">
          {now.places.map((p, i) => (
            <Place
              key={p.device}
              place={p}
              number={i + 1}
              speaks={speakers.some((s) => s.device === p.device)}
              busy={busy}
              act={(g) => props.press(p, g)}
            />
          ))}
        </ul>
      </div>
    </div>
  );
}
