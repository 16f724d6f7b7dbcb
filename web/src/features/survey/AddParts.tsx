import { Core } from "../circuit/Core";
import { useWork } from "../circuit/work";
import { Fold } from "../../ui/Fold";
import { look } from "../../ui/look";

/** Cables and devices to add to a box, one tap each. */
export function AddParts(props: { box: string }) {
  const { circuit, change, word, busy, practice } = useWork();
  return (
    <Fold className="print:hidden" title="Add a cable or device that is in this box">
      <h3>Cable, by what one sees of it</h3>
      <div className={look.row}>
        {circuit.reading.cables.map((k) => (
          <button
            key={k.id}
            type="button"
            className={look.button}
            disabled={busy}
            onClick={() => change({ do: "edit", edit: { op: "add-cable", box: props.box, cores: k.cores, gauge: k.gauge } })}
          >
            {k.name}
            <span className="inline-flex gap-2 text-[0.85rem] font-normal">
              {k.cores.map((c) => (
                <Core key={c} core={c} />
              ))}
            </span>
          </button>
        ))}
      </div>
      <h3>Device</h3>
      <div className={look.row}>
        {practice?.parts.map((t) => (
          <button
            key={t}
            type="button"
            className={look.button}
            disabled={busy}
            onClick={() => change({ do: "edit", edit: { op: "add-device", box: props.box, type: t } })}
          >
            {t === "supply" ? word("breaker") : word(t)}
          </button>
        ))}
      </div>
    </Fold>
  );
}
