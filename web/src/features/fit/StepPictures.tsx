import type { Schemas } from "../../api/client";
import { useStepPictures } from "../../api/fitting";
import { look } from "../../ui/look";
import { useWork } from "../circuit/work";
import { Picture } from "../drawing/Picture";

/** The box of a step as it is now and as the step leaves it, with the ends that it is about marked in both. */
export function StepPictures(props: { step: Schemas["Step"]; last: number; stacked?: boolean }) {
  const { circuit } = useWork();
  const { step } = props;
  const drawn = useStepPictures(circuit.id, step.number, props.last, step.box !== undefined);
  const same = (step.edits ?? []).length === 0;
  return (
    <div className={`grid gap-3 pt-2 ${props.stacked ? "" : "min-h-0 flex-1 content-start overflow-auto p-4 xl:grid-cols-2"}`}>
      {[
        { title: same ? "The box as it is" : "Now", picture: drawn.data?.now },
        ...(same ? [] : [{ title: "As this step leaves it", picture: drawn.data?.after }]),
      ].map(({ title, picture }) => (
        <figure key={title} className="min-w-0">
          <figcaption className="font-serif font-semibold">{title}</figcaption>
          <div className={look.front} role="region" aria-label={`${step.where ?? ""}: ${title}`} tabIndex={0}>
            {picture ? <Picture picture={picture} seen={{ pointed: step.at ?? [] }} acts={{}} /> : <div className="h-80" />}
          </div>
        </figure>
      ))}
    </div>
  );
}
