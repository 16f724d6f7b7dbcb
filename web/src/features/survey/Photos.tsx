import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Camera } from "lucide-react";
import { useRef } from "react";
import { useLocation, useNavigate, type Location } from "react-router";
import { asFile, client, take } from "../../api/client";
import { keys } from "../../api/keys";
import { Notice } from "../../ui/Notice";
import { Remove } from "../../ui/Remove";
import { Sheet } from "../../ui/Sheet";
import { Saved } from "./CircuitFacts";
import { boxName, useWork } from "../circuit/work";
import { useDates } from "../../ui/settings";
import { look } from "../../ui/look";

/** The photographs of a box, kept with the job. */
export function Photos(props: { box: string }) {
  const { circuit } = useWork();
  const queries = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const onSettled = () => queries.invalidateQueries({ queryKey: keys.circuit(circuit.id) });
  const add = useMutation({
    mutationFn: async (files: File[]) => {
      const path = { circuit: circuit.id, box: props.box };
      for (const file of files) await take(client.POST("/circuits/{circuit}/boxes/{box}/photos", { params: { path }, ...asFile(file) }));
    },
    onSettled,
  });
  const note = useMutation({
    mutationFn: (p: { photo: string; note: string }) =>
      take(client.PATCH("/photos/{photo}", { params: { path: { photo: p.photo } }, body: { note: p.note } })),
    onSettled,
  });
  const remove = useMutation({
    mutationFn: (photo: string) => take(client.DELETE("/photos/{photo}", { params: { path: { photo } } })),
    onSettled,
  });
  const written = useDates();
  const photos = circuit.photos.filter((p) => p.box === props.box);
  const { pathname, search, state } = useLocation() as Location<{ photo?: string } | null>;
  const go = useNavigate();
  const shown = photos.find((p) => p.id === state?.photo);
  return (
    <section aria-label="Photographs">
      <h3>Photographs</h3>
      {photos.length > 0 && (
        <ul className="photos mb-3 grid grid-cols-[repeat(auto-fill,minmax(11rem,1fr))] gap-3 [&_img]:h-auto [&_img]:w-full [&_img]:border [&_img]:border-soft">
          {photos.map((p) => {
            const when = written(p.created, true);
            return (
              <li key={p.id}>
                <button
                  type="button"
                  className="grid w-full cursor-pointer"
                  onClick={() => void go({ pathname, search }, { state: { photo: p.id } })}
                >
                  <img
                    src={`/api/v1/photos/${p.id}?small=true`}
                    width={p.width}
                    height={p.height}
                    loading="lazy"
                    alt={`${boxName(circuit, props.box)}, ${when}${p.note ? `: ${p.note}` : ""}`}
                  />
                </button>
                <div className="flex items-end gap-1">
                  <Saved label={`Note, ${when}`} value={p.note} onSave={(text) => note.mutate({ photo: p.id, note: text })} />
                  <Remove
                    what={`the photograph of ${when}`}
                    warning="Remove this photograph? This cannot be undone."
                    onRemove={() => remove.mutate(p.id)}
                  />
                </div>
              </li>
            );
          })}
        </ul>
      )}
      {shown && (
        <Sheet title={`${boxName(circuit, props.box)}, ${written(shown.created, true)}`} close={() => void go(-1)}>
          <img className="mx-auto h-auto max-w-full" src={`/api/v1/photos/${shown.id}`} width={shown.width} height={shown.height} alt="" />
          {shown.note && <p className="py-2">{shown.note}</p>}
        </Sheet>
      )}
      <label className={look.button}>
        <Camera aria-hidden size={18} /> Add photographs
        <input
          ref={input}
          type="file"
          multiple
          className="sr-only"
          accept="image/jpeg,image/png,image/webp"
          onChange={(e) => {
            add.mutate([...(e.target.files ?? [])]);
            if (input.current) input.current.value = "";
          }}
        />
      </label>{" "}
      <span className="text-soft" role="status">
        {add.isPending ? "Keeping …" : "Place and time that the camera wrote into them are taken off."}
      </span>
      <Notice error={add.error ?? note.error ?? remove.error} />
    </section>
  );
}
