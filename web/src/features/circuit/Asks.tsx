import { useState } from "react";
import { look } from "../../ui/look";
import { Tick } from "../../ui/Tick";

/** What a person confirms line by line, and the button that waits for all of it. */
export function Asks(props: { asks: string[]; busy: boolean; label: string; done: (asked: string[]) => void }) {
  const [ticked, setTicked] = useState<string[]>([]);
  return (
    <div>
      {props.asks.map((line) => (
        <div key={line}>
          <Tick checked={ticked.includes(line)} set={(so) => setTicked((now) => (so ? [...now, line] : now.filter((x) => x !== line)))}>
            {line}
          </Tick>
        </div>
      ))}
      <button
        type="button"
        className={`${look.strong} mt-2 min-h-14 w-full justify-center text-lg`}
        disabled={props.busy || props.asks.some((line) => !ticked.includes(line))}
        onClick={() => props.done(props.asks)}
      >
        {props.label}
      </button>
    </div>
  );
}
