import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useUsual } from "../../api/queries";
import { Notice } from "../../ui/Notice";
import { Choice } from "../../ui/Choice";
import { Segments } from "../../ui/Segments";
import { Picture } from "../drawing/Picture";
import { useWork } from "../circuit/work";
import { look } from "../../ui/look";

/** How many pictures are shown at once. */
const few = 6;

/** How wide one is at most, in pixels. */
const wide = 118;

type Box = Schemas["UsualBox"];

const any = "any";
const none = "none";

/** Usual boxes as pictures, sifted by what one sees: cables, cores, what stands in the box. */
export function UsualBoxes(props: { cable: string; add: (box: Box) => void }) {
  const { circuit, busy, word } = useWork();
  const usual = useUsual(circuit.id, circuit.revision, props.cable);
  const [cables, setCables] = useState(any);
  const [cores, setCores] = useState(any);
  const [device, setDevice] = useState(any);
  const [all, setAll] = useState(false);
  if (usual.error) return <Notice error={usual.error} />;
  if (!usual.data) return <div className="min-h-[54rem] sm:min-h-[24rem]" />; // about as high as most are
  const boxes = usual.data;
  if (boxes.length === 0) return null;
  const values = (of: (b: Box) => string) => [...new Set(boxes.map(of))].sort();
  const asked = (list: string[], name: (value: string) => string): [string, string][] => [
    [any, "any"],
    ...list.map((v): [string, string] => [v, name(v)]),
  ];
  const left = boxes.filter(
    (b) =>
      (cables === any || String(b.cables) === cables) &&
      (cores === any || String(b.cores) === cores) &&
      (device === any || (b.device || none) === device),
  );
  return (
    <>
      <h3>A usual one, corrected where it differs</h3>
      {boxes.length > few && (
        <div className="flex flex-wrap gap-x-4 gap-y-1 pb-2">
          <Segments
            label="Cables"
            value={cables}
            options={asked(
              values((b) => String(b.cables)),
              (v) => v,
            )}
            set={setCables}
          />
          <Segments
            label="Most cores"
            value={cores}
            options={asked(
              values((b) => String(b.cores)),
              (v) => v,
            )}
            set={setCores}
          />
          <Choice
            label="In it"
            value={device}
            options={asked(
              values((b) => b.device || none),
              (v) => (v === none ? "nothing" : word(v)),
            )}
            set={setDevice}
          />
        </div>
      )}
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(7.8rem,1fr))] gap-2">
        {(all ? left : left.slice(0, few)).map((b) => (
          <li key={b.id} className="grid">
            <button
              type="button"
              aria-disabled={busy}
              className="grid cursor-pointer grid-rows-[1fr_auto] gap-1 border border-rule bg-sheet p-1.5 text-left text-sm leading-tight hover:border-ink"
              onClick={() => !busy && props.add(b)}
            >
              <span className="flex items-end justify-center overflow-hidden" aria-hidden>
                <Picture picture={b.picture} scale={Math.min(0.5, wide / b.picture.width)} />
              </span>
              <span>{b.title}</span>
            </button>
          </li>
        ))}
      </ul>
      {left.length === 0 && <p className="text-soft">None of the usual ones has that. Add an empty one and fill it by hand.</p>}
      {left.length > few && (
        <button type="button" className={`${look.button} mt-2`} aria-expanded={all} onClick={() => setAll(!all)}>
          {all ? "Fewer of them" : `${left.length - few} more`}
        </button>
      )}
    </>
  );
}
