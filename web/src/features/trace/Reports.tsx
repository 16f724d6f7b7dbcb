import { X } from "lucide-react";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { switchReports } from "../../api/terms.gen";
import { useWork } from "../circuit/work";
import { Fold } from "../../ui/Fold";
import { Choice } from "../../ui/Choice";
import { look } from "../../ui/look";
import { Tool } from "../../ui/Tool";

type SwitchReport = Schemas["AddReport"]["says"];

/** What the customer says of the light. */
export function Reports({ said }: { said: string[] }) {
  const { circuit, change, word, busy, practice } = useWork();
  const [device, setDevice] = useState("");
  const switches = circuit.document.devices.filter((d) => practice?.switches.includes(d.type));
  const say = (says: SwitchReport, of?: string) => change({ do: "edit", edit: { op: "report", says, device: of } });
  return (
    <Fold
      section
      className={look.chapter}
      title={
        <>
          What the customer says{" "}
          <span className="font-sans text-base font-normal text-soft">
            {said.length === 0 ? "nothing noted: each switch is taken to work" : `${said.length} noted`}
          </span>
        </>
      }
    >
      <div className={look.fields}>
        <Choice
          above
          label="Which switch"
          value={device}
          options={switches.map((d) => [d.id, circuit.reading.names.devices[d.id] ?? word(d.type)])}
          set={setDevice}
        />
      </div>
      <div className={look.row}>
        {switchReports.map(([says, text]) => (
          <button key={says} type="button" className={look.button} disabled={!device || busy} onClick={() => say(says, device)}>
            It {text}
          </button>
        ))}
        <button type="button" className={look.button} disabled={busy} onClick={() => say("others-die")}>
          Other lights die with the same {word("breaker")}
        </button>
        <button type="button" className={look.button} disabled={busy} onClick={() => say("nothing-else")}>
          Nothing else dies with it
        </button>
        <button type="button" className={look.button} disabled={busy} onClick={() => say("never-lights")}>
          The light never comes on
        </button>
        <button type="button" className={look.button} disabled={busy} onClick={() => say("breaker-trips")}>
          The {word("breaker")} trips
        </button>
      </div>
      {/* below what is pressed, which stays where it is while answers come in */}
      <ul className={look.dashes}>
        {said.map((text, i) => (
          <li key={text}>
            {text}{" "}
            <Tool
              icon={X}
              label={`Take back: ${text}`}
              disabled={busy}
              onClick={() => change({ do: "edit", edit: { op: "remove-report", index: i } })}
            />
          </li>
        ))}
      </ul>
    </Fold>
  );
}
