import { useState } from "react";
import type { Schemas } from "../../api/client";
import { Remove } from "../../ui/Remove";
import { coreText } from "../circuit/Core";
import { useWork } from "../circuit/work";
import { Fold } from "../../ui/Fold";
import { Choice } from "../../ui/Choice";
import { look } from "../../ui/look";

type Fixed = Schemas["FixedCore"];

/** Which core shall carry what, as the house has it: plans keep to it, or say why they cannot. */
export function FixedCores(props: { fixed: Fixed[]; roles: string[]; keep: (fixed: Fixed[]) => void }) {
  const { circuit, word } = useWork();
  const [core, setCore] = useState("");
  const [role, setRole] = useState("");
  const cores = circuit.document.cables
    .flatMap((k) => k.cores.map((c) => `${k.id}.${c}`))
    .filter((c) => !props.fixed.some((f) => f.core === c));
  const say = (ref: string) => {
    const [cable = "", part = ""] = ref.split(".");
    return `${coreText(part)} of ${circuit.reading.names.cables[cable]}`;
  };
  return (
    <Fold
      open={props.fixed.length > 0}
      title={
        <>
          Which core carries what{" "}
          <span className="text-soft">{props.fixed.length > 0 ? `${props.fixed.length} fixed` : "as it takes the least work"}</span>
        </>
      }
    >
      <ul>
        {props.fixed.map((f) => (
          <li key={f.core} className={`${look.row} items-center`}>
            <span>
              {say(f.core)} carries {word(f.role)}
            </span>
            <Remove
              what={`what ${say(f.core)} is fixed for`}
              warning="Let this core carry whatever takes the least work?"
              onRemove={() => props.keep(props.fixed.filter((x) => x !== f))}
            />
          </li>
        ))}
      </ul>
      <div className={`${look.row} items-end`}>
        <Choice above label="Core" value={core} options={cores.map((c) => [c, say(c)])} set={setCore} />
        <Choice above label="shall carry" value={role} options={props.roles.map((r) => [r, word(r)])} set={setRole} />
        <button
          type="button"
          className={look.button}
          disabled={core === "" || role === ""}
          onClick={() => {
            props.keep([...props.fixed, { core, role }]);
            setCore("");
          }}
        >
          Fix it
        </button>
      </div>
    </Fold>
  );
}
