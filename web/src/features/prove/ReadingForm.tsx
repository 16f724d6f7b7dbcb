import { useState } from "react";
import type { Schemas } from "../../api/client";
import type { Entry } from "../../api/fitting";
import { readings } from "../../api/terms.gen";
import { look } from "../../ui/look";
import { Asks } from "../circuit/Asks";

const words = new Map<string, readonly (readonly [string, string])[]>(Object.entries(readings));

/** What an instrument showed: one of two words, or volts. Before that, what has to be so wherever a hand goes in. */
export function ReadingForm(props: { test: Schemas["Observation"]; asks: string[]; busy: boolean; add: (entry: Entry) => void }) {
  const [volts, setVolts] = useState("");
  const [confirmed, setConfirmed] = useState<string[]>([]);
  const pair = words.get(props.test.instrument);
  const read = (reading: string | number) =>
    props.add({ kind: "reading", test: { ...props.test, reading }, ...(props.asks.length > 0 ? { asked: props.asks } : {}) });
  if (props.asks.some((line) => !confirmed.includes(line))) {
    return <Asks asks={props.asks} busy={props.busy} label="Confirmed" done={setConfirmed} />;
  }
  if (pair) {
    return (
      <div className={`${look.row} pt-2`}>
        {pair.map(([reading, text]) => (
          <button key={reading} type="button" className={look.button} disabled={props.busy} onClick={() => read(reading)}>
            {text}
          </button>
        ))}
      </div>
    );
  }
  const value = Number(volts.replace(",", "."));
  return (
    <form
      className="flex flex-wrap items-end gap-2 pt-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (volts.trim() !== "" && Number.isFinite(value) && value >= 0) read(value);
      }}
    >
      <label className={look.field}>
        <span>Volts read</span>
        <input inputMode="decimal" value={volts} onChange={(e) => setVolts(e.target.value)} />
      </label>
      <button type="submit" className={look.button} disabled={props.busy}>
        Enter
      </button>
    </form>
  );
}
