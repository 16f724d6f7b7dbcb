import { Tabs } from "radix-ui";
import { Link, useSearchParams } from "react-router";
import { LiveDiagram } from "../drawing/LiveDiagram";
import { useWork } from "../circuit/work";
import { BoxByBox } from "./BoxByBox";
import { Materials } from "./Materials";
import { OneLine } from "./OneLine";
import { Papers } from "./Papers";
import { Steps } from "./Steps";
import { WholeWiring } from "./WholeWiring";
import { look } from "../../ui/look";

const sights = [
  ["wiring", "Whole wiring", WholeWiring],
  ["boxes", "Box by box", BoxByBox],
  ["line", "Single line", OneLine],
  ["steps", "Steps", Steps],
  ["materials", "Materials", Materials],
] as const;

/** The chosen plan, to be built from: drawings, steps, what it takes. What is looked at stands in the address. */
export function WireStage({ bench }: { bench: boolean }) {
  const { circuit, practice, place } = useWork();
  const [search] = useSearchParams();
  if (!circuit.choice) {
    return (
      <div className="py-2">
        <p className={`mx-6 max-sm:mx-3.5 ${look.empty}`}>
          No plan is chosen yet. <Link to={`/circuits/${circuit.id}/choose`}>Choose one</Link>, and its drawings, steps and materials stand
          here.
        </p>
        <Papers chosen={false} />
        {!bench && <LiveDiagram of="found" heading="As found" />}
      </div>
    );
  }
  const see = sights.find(([id]) => id === search.get("see"))?.[0] ?? "wiring";
  const caution = (
    <p className={bench ? "border-b border-rule px-4 py-2 text-[0.92rem]" : `mx-6 max-sm:mx-3.5 ${look.caution}`}>
      {practice?.caution} {practice?.whoMay} This plan is of the circuit as recorded: a wrong record gives a wrong plan.
    </p>
  );
  const head = (
    <div className="flex flex-wrap justify-between gap-x-6 gap-y-2 px-6 py-2.5 max-sm:px-3.5">
      <h2 className="flex-[1_1_22rem]">{circuit.choice.option.title}</h2>
      <Papers chosen />
    </div>
  );
  return (
    <div className={bench ? undefined : "py-2"}>
      {bench && caution}
      <Tabs.Root value={see} onValueChange={(to) => place({ see: to === "wiring" ? undefined : to })}>
        <Tabs.List
          className={`sights flex flex-wrap border-b border-rule print:hidden ${bench ? "px-2" : "px-6 max-sm:px-3.5"}`}
          aria-label="What to look at"
        >
          {sights.map(([id, name]) => (
            <Tabs.Trigger
              key={id}
              value={id}
              className="min-h-[46px] cursor-pointer border-b-[3px] border-transparent px-2.5 whitespace-nowrap aria-selected:border-ink aria-selected:font-[650]"
            >
              {name}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        {sights.map(([id, , Sight]) => (
          <Tabs.Content key={id} value={id} className="min-h-[75dvh]">
            <Sight bench={bench} />
          </Tabs.Content>
        ))}
      </Tabs.Root>
      {head}
      {!bench && caution}
    </div>
  );
}
