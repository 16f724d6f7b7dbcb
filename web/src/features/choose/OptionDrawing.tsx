import { useState } from "react";
import type { Option } from "../../api/client";
import { useOptionDiagram } from "../../api/queries";
import { Current } from "../../ui/Current";
import { Notice } from "../../ui/Notice";
import { useMoney } from "../../ui/settings";
import { Share } from "../../ui/Share";
import { Board } from "../drawing/Board";
import { Fitted } from "../drawing/Picture";
import { useWork } from "../circuit/work";
import { ChooseButton } from "./OptionCard";
import { Pair } from "../drawing/Pair";
import { look } from "../../ui/look";

/** The drawings of an option: as it is today and as it would be, in the same places. */
function useDrawings(option: Option) {
  const { circuit } = useWork();
  return {
    today: useOptionDiagram(circuit.id, circuit.revision, "found", option.id),
    then: useOptionDiagram(circuit.id, circuit.revision, "planned", option.id),
  };
}

/** On the bench: what the option makes of the circuit, with today's wiring to draw over it. */
export function OptionBoard({ option }: { option: Option }) {
  const { box, pointed, point } = useWork();
  const { today, then } = useDrawings(option);
  const money = useMoney();
  const [share, setShare] = useState(0);
  const m = option.metrics;
  return (
    <section className="live flex min-h-0 min-w-0 flex-col" aria-label={`Shown: ${option.title}`}>
      <div className="flex flex-wrap items-center justify-between gap-x-4 px-4">
        <h2 className="py-2">{share >= 50 ? "Today" : "With it"}</h2>
        <Share label="How much of today’s wiring is drawn over it" from="with it" to="today" share={share} set={setShare} />
      </div>
      <Notice error={today.error ?? then.error} />
      {!then.data && <div className="min-h-0 flex-1 bg-sheet" />}
      {then.data && (
        <Current stale={then.isPlaceholderData} what="drawn anew" fill>
          <Board
            picture={then.data}
            label={option.title}
            whole
            seen={{ pointed, box }}
            acts={{ pick: (end) => point([end]) }}
            over={today.data && { picture: today.data, share }}
          />
        </Current>
      )}
      <div className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1 border-t border-rule px-4 py-2">
        <p className="min-w-0 flex-1 basis-60">
          <strong>{option.title}</strong>{" "}
          <span className="text-soft">
            {m?.boxesTouched} boxes, {m?.endsMoved} ends, {m?.minutes} minutes, {money(m?.price)}. ◇ is joined differently.
          </span>
        </p>
        <ChooseButton option={option} />
      </div>
    </section>
  );
}

/** On a small screen: both, one above the other. */
export function OptionPair({ option }: { option: Option }) {
  const { today, then } = useDrawings(option);
  const both = today.data && then.data; // they come together: neither moves the other
  return (
    <Pair stacked>
      <Notice error={today.error ?? then.error} />
      {[
        { heading: "With it; ◇ is joined differently", picture: then.data },
        { heading: "Today", picture: today.data },
      ].map(({ heading, picture }) => (
        <figure key={heading}>
          <figcaption>{heading}</figcaption>
          <div className={look.sheet} tabIndex={0} role="region" aria-label={`Drawing: ${heading}`}>
            {both && picture ? <Fitted picture={picture} /> : <div className="h-[62vh]" />}
          </div>
        </figure>
      ))}
    </Pair>
  );
}
