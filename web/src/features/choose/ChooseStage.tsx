import { Link } from "react-router";
import type { usePlan } from "../../api/queries";
import { Current } from "../../ui/Current";
import { Notice, Waiting } from "../../ui/Notice";
import { Sheet } from "../../ui/Sheet";
import { ChooseButton, OptionCard } from "./OptionCard";
import { OptionPair } from "./OptionDrawing";
import { TradeOff } from "./TradeOff";
import { Unfit } from "./Unfit";
import { Wishes } from "./Wishes";
import { useWork } from "../circuit/work";
import { useState } from "react";
import { look } from "../../ui/look";

/** How many options stand side by side at most. */
const most = 4;

/** What these conductors can carry, each proved, to be weighed and chosen from; and what they cannot, and why. */
export function ChooseStage(props: {
  bench: boolean;
  plan: ReturnType<typeof usePlan>;
  shown: string | undefined;
  show: (option: string | undefined) => void;
}) {
  const { plan } = props;
  const [marked, setMarked] = useState<string[]>([]);
  const options = plan.data?.options ?? [];
  const fits = options.filter((o) => o.feasible);
  const not = options.filter((o) => !o.feasible);
  const reasons = not[0]?.reasons ?? [];
  const faulty = fits.length === 0 && not.length > 0 && not.every((o) => o.reasons?.[0]?.code === "circuit-faulty");
  const shown = fits.find((o) => o.id === props.shown);
  const compared = marked.filter((id) => fits.some((o) => o.id === id));
  const mark = (id: string) => setMarked((before) => (before.includes(id) ? before.filter((x) => x !== id) : [...before, id].slice(-most)));
  return (
    <div className={props.bench ? "px-4 pb-4" : `py-2 ${look.gutter}`}>
      <Notice error={plan.error} />
      {plan.isPending && <Waiting what="Allocating and simulating" />}
      {plan.data && options.length === 0 && (
        <p className={look.empty}>There is nothing to plan on yet: record a switch and the lamp first.</p>
      )}
      {faulty && (
        <section className={look.chapter}>
          <h2>Nothing is planned on a circuit that is not sound</h2>
          <ul className={look.dashes}>
            {reasons.map((r) => (
              <li key={r.text}>{r.text}</li>
            ))}
          </ul>
        </section>
      )}
      {options.length > 0 && !faulty && (
        <section aria-label="Wishes">
          <Wishes />
          {plan.data?.conflicts?.map((c) => (
            <p key={c.text} className={look.notice} role="status">
              {c.text}
            </p>
          ))}
        </section>
      )}
      <Current stale={plan.isPlaceholderData} what="planned anew for the circuit as it is now">
        {fits.length > 0 && (
          <TradeOff
            options={fits}
            first={plan.data?.first ?? []}
            shown={props.shown}
            show={props.show}
            marked={compared}
            mark={mark}
            compare={<Compare ids={compared} clear={() => setMarked([])} />}
          />
        )}
        {shown && props.bench && (
          <section aria-label={`In full: ${shown.title}`} className="my-4 border-t-2 border-ink pt-3">
            <h2 className="mb-2">{shown.title}</h2>
            <OptionCard option={shown} />
          </section>
        )}
        {shown && !props.bench && (
          <Sheet title={shown.title} close={() => props.show(undefined)} foot={<ChooseButton option={shown} />}>
            <OptionPair option={shown} />
            <OptionCard option={shown} />
          </Sheet>
        )}
        {!faulty && not.length > 0 && <Unfit options={not} narrow={plan.data?.narrow ?? []} />}
        {fits.length > 0 && (
          <p className="text-soft">
            Made of <Link to="/devices">these device models</Link>. Each option was simulated in every state that it can reach before it was
            put here.
          </p>
        )}
      </Current>
    </div>
  );
}

/** What is marked, to be compared. */
function Compare(props: { ids: string[]; clear: () => void }) {
  const { circuit } = useWork();
  if (props.ids.length === 0) return null;
  return (
    <div className="flex flex-wrap items-center gap-2 py-1" role="status">
      <span>{props.ids.length === 1 ? "One is marked; mark another to compare." : `${props.ids.length} are marked.`}</span>
      <button type="button" className={look.button} onClick={props.clear}>
        Clear
      </button>
      {props.ids.length > 1 && (
        <Link className={look.strong} to={{ pathname: `/circuits/${circuit.id}/compare`, search: `?o=${props.ids.join(",")}` }}>
          Compare side by side
        </Link>
      )}
    </div>
  );
}
