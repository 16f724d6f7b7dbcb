import { AddBox } from "./AddBox";
import { BoxEditor } from "./BoxEditor";
import { CircuitFacts } from "./CircuitFacts";
import { Findings } from "../circuit/Findings";
import { LiveDiagram } from "../drawing/LiveDiagram";
import { useWork } from "../circuit/work";
import { look } from "../../ui/look";

/** Record what the open boxes show, and see at once what was understood. */
export function SurveyStage({ bench }: { bench: boolean }) {
  const { circuit, box } = useWork();
  const empty = circuit.document.boxes.length === 0;
  return (
    <>
      <div className={look.columns(bench, bench || empty)}>
        <div>
          {box && <BoxEditor key={box} box={box} />}
          {!empty && !bench && <LiveDiagram of="found" heading="As recorded" />}
          <AddBox />
          {empty && <CircuitFacts />}
        </div>
        {!empty && (
          <div>
            <Findings />
            <CircuitFacts />
          </div>
        )}
      </div>
    </>
  );
}
