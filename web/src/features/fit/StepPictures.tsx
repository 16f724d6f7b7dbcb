import type { Schemas } from "../../api/client";
import { useStepPictures } from "../../api/fitting";
import { useWork } from "../circuit/work";
import { TwoBoxes } from "../drawing/TwoBoxes";

/** What the box before a step is called: beside the box after it, and alone. */
const titles: Record<Schemas["StepPictures"]["when"], [string, string]> = {
  now: ["Now", "The box as it is"],
  before: ["Before this step", "The box as it was"],
  ahead: ["When its turn comes", "The box when its turn comes"],
};

/** The box of a step before it and as the step leaves it, with the ends that it is about marked in both. */
export function StepPictures(props: { step: Schemas["Step"]; last: number; stacked?: boolean }) {
  const { circuit } = useWork();
  const { step } = props;
  const drawn = useStepPictures(circuit.id, step.number, props.last, step.box !== undefined);
  if (drawn.error) return null;
  const { when, before, after } = drawn.data ?? { when: "now" };
  const changes = drawn.data ? after : (step.edits ?? []).length > 0;
  const [beside, alone] = titles[when];
  const of: [string, Schemas["Picture"] | undefined][] = [];
  if (before || !drawn.data) of.push([changes ? beside : alone, before]);
  if (changes) of.push(["As this step leaves it", after]);
  return (
    <div className={`grid gap-3 pt-2 ${props.stacked ? "" : "min-h-0 flex-1 content-start overflow-auto p-4 xl:grid-cols-2"}`}>
      <TwoBoxes of={of} where={step.where ?? ""} at={step.at ?? []} />
    </div>
  );
}
