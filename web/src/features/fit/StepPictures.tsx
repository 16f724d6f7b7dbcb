import type { Schemas } from "../../api/client";
import { useStepPictures } from "../../api/fitting";
import { useWork } from "../circuit/work";
import { TwoBoxes } from "../drawing/TwoBoxes";

/**
 * The box of a step as it is now and as the step leaves it, with the ends that it is about marked in both; nothing where the
 * step cannot be done yet.
 */
export function StepPictures(props: { step: Schemas["Step"]; last: number; stacked?: boolean }) {
  const { circuit } = useWork();
  const { step } = props;
  const drawn = useStepPictures(circuit.id, step.number, props.last, step.box !== undefined);
  const same = drawn.data ? !drawn.data.after : (step.edits ?? []).length === 0;
  if (drawn.error) return null;
  return (
    <div className={`grid gap-3 pt-2 ${props.stacked ? "" : "min-h-0 flex-1 content-start overflow-auto p-4 xl:grid-cols-2"}`}>
      <TwoBoxes
        of={[
          [same ? "The box as it is" : "Now", drawn.data?.now],
          ...(same ? [] : [["As this step leaves it", drawn.data?.after] as [string, Schemas["Picture"] | undefined]]),
        ]}
        where={step.where ?? ""}
        at={step.at ?? []}
      />
    </div>
  );
}
