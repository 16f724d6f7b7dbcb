import type { Fitting } from "../../api/fitting";
import { LiveDiagram } from "../drawing/LiveDiagram";
import { StepPictures } from "./StepPictures";

/** On the bench: the box of the step, now and as the step leaves it; the whole circuit where a step is of no box. */
export function FitBoard({ fitting, at }: { fitting: Fitting | undefined; at: number }) {
  if (!fitting) return <section className="min-w-0" aria-busy />; // whether a box or the whole circuit is shown is not known yet
  const step = fitting.steps[at - 1];
  if (!step?.box || fitting.over) return <LiveDiagram of="planned" heading="As it will be" board />;
  return (
    <section className="live flex min-h-0 min-w-0 flex-col" aria-label="The box of this step">
      <h2 className="px-4 pt-2">{step.where}</h2>
      <StepPictures step={step} last={fitting.last} />
    </section>
  );
}
