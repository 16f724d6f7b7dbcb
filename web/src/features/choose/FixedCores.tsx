import { useState } from "react";
import type { Schemas } from "../../api/client";
import { Remove } from "../../ui/Remove";
import { coreText } from "../circuit/Core";
import { useWork } from "../circuit/work";

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
    return `${coreText(part)} of ${cable}`;
  };
  return (
    <details className="fixed-cores" open={props.fixed.length > 0 || undefined}>
      <summary className="min-h-11 py-2">
        Which core carries what{" "}
        <span className="quiet">{props.fixed.length > 0 ? `${props.fixed.length} fixed` : "as it takes the least work"}</span>
      </summary>
      <ul>
        {props.fixed.map((f) => (
          <li key={f.core} className="row items-center">
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
      <div className="row items-end">
        <label className="field inline">
          <span>Core</span>
          <select className="input" value={core} onChange={(e) => setCore(e.target.value)}>
            <option value="">choose one</option>
            {cores.map((c) => (
              <option key={c} value={c}>
                {say(c)}
              </option>
            ))}
          </select>
        </label>
        <label className="field inline">
          <span>shall carry</span>
          <select className="input" value={role} onChange={(e) => setRole(e.target.value)}>
            <option value="">choose one</option>
            {props.roles.map((r) => (
              <option key={r} value={r}>
                {word(r)}
              </option>
            ))}
          </select>
        </label>
        <button
          type="button"
          className="button"
          disabled={core === "" || role === ""}
          onClick={() => {
            props.keep([...props.fixed, { core, role }]);
            setCore("");
          }}
        >
          Fix it
        </button>
      </div>
    </details>
  );
}
