import { useState } from "react";
import { useNavigate } from "react-router";
import type { Schemas } from "../../api/client";
import { useDiagnosis, useLog, useMistake, type Entry } from "../../api/fitting";
import { look } from "../../ui/look";
import { Notice, Waiting } from "../../ui/Notice";
import { useOnce } from "../../ui/useOnce";
import { Warning } from "../trace/Card";
import { percent } from "../trace/Bar";
import { boxName, useWork } from "../circuit/work";
import { TwoBoxes } from "../drawing/TwoBoxes";
import { ReadingForm } from "./ReadingForm";
import type { Proof } from "./ProveStage";

/** So many of the likeliest are listed; what is looked at next rules others out. */
const few = 4;

/** What was seen is not what right work shows: the single mistakes that explain it, and what to look at next. */
export function Diagnosis(props: { proof: Proof; busy: boolean; add: (entry: Entry) => void }) {
  const { circuit, point, word } = useWork();
  const [shown, setShown] = useState<string>();
  const found = useDiagnosis(circuit.id, props.proof.last, true);
  const log = useLog(circuit.id);
  const once = useOnce();
  const go = useNavigate();
  const { data } = found;
  return (
    <section aria-label="What is wrong" className="grid gap-3 border-l-6 border-ink pl-4">
      <h2>It does not do what right work does</h2>
      <Warning>Turn the {word("breaker")} off before a hand goes in; what stands wrong may be live.</Warning>
      <Notice error={found.error ?? log.error} />
      {found.isPending && <Waiting what="Going through every single mistake" />}
      {data && (
        <>
          <p role="status">{data.text}</p>
          {data.boxes.length > 0 && (
            <ol className="list-decimal pl-6">
              {data.boxes.map((b) => (
                <li key={b}>{boxName(circuit, b)}</li>
              ))}
            </ol>
          )}
          {data.next && (
            <div className="border border-ink p-3">
              <p className="font-serif font-semibold">To look at next</p>
              <p>{data.next.text}</p>
              {data.next.press && <PressNext press={data.next.press} proof={props.proof} busy={props.busy} add={props.add} />}
              {data.next.test && <ReadingForm test={data.next.test} asks={data.next.asks ?? []} busy={props.busy} add={props.add} />}
            </div>
          )}
          <ol className="grid gap-1">
            {data.mistakes.slice(0, few).map((m) => (
              <li key={m.text} className="grid gap-2 border-t border-rule py-2">
                <p>
                  <strong>{m.text}</strong>{" "}
                  <span className="text-soft">
                    {boxName(circuit, m.box)}, {percent(m.odds)}
                  </span>
                </p>
                <div className={look.row}>
                  <button
                    type="button"
                    className={look.button}
                    onClick={() => {
                      point(m.ends);
                      setShown(m.text);
                    }}
                  >
                    Show
                  </button>
                  {props.proof.planned && (
                    <button
                      type="button"
                      className={look.button}
                      disabled={props.busy || log.isPending}
                      onClick={() =>
                        once("mend", () =>
                          log
                            .mutateAsync({ way: "mend", mistake: { kind: m.kind, ends: m.ends } })
                            .then(() => go(`/circuits/${circuit.id}/fit`)),
                        )
                      }
                    >
                      It is so: mend it, step by step
                    </button>
                  )}
                </div>
                {shown === m.text && <Wrong mistake={m} />}
              </li>
            ))}
          </ol>
          {data.mistakes.length > few && <p className="text-soft">and {data.mistakes.length - few} that are less likely</p>}
        </>
      )}
    </section>
  );
}

/** The box as it stands if a suspect is what is wrong, and as it should be. */
function Wrong({ mistake }: { mistake: Schemas["Mistake"] & { box: string } }) {
  const { circuit } = useWork();
  const drawn = useMistake(circuit.id, circuit.revision, { kind: mistake.kind, ends: mistake.ends }, mistake.box);
  return (
    <div className="grid gap-3 sm:max-lg:grid-cols-2">
      <Notice error={drawn.error} />
      <TwoBoxes
        of={[
          ["If it is so", drawn.data?.wrong],
          ["As it should be", drawn.data?.right],
        ]}
        where={boxName(circuit, mistake.box)}
        at={mistake.ends}
      />
    </div>
  );
}

/** How the lamps look after a press that tells suspects apart. */
function PressNext(props: { press: string; proof: Proof; busy: boolean; add: (entry: Entry) => void }) {
  const { word } = useWork();
  const [lamp] = props.proof.lamps;
  if (!lamp || props.proof.lamps.length > 1) return null;
  return (
    <div className={`${look.row} pt-2`}>
      {(["lit", "dark", "trip"] as const).map((how) => (
        <button
          key={how}
          type="button"
          className={look.button}
          disabled={props.busy}
          onClick={() => props.add({ kind: "press", press: props.press, lamps: { [lamp.id]: how } })}
        >
          {how === "trip" ? `the ${word("breaker")} went` : `${lamp.text} ${how}`}
        </button>
      ))}
    </div>
  );
}
