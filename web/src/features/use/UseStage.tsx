import { useState } from "react";
import { usePutUse, useUse, type Use } from "../../api/use";
import { look } from "../../ui/look";
import { Notice, Waiting } from "../../ui/Notice";
import { useWork } from "../circuit/work";
import { LoadForm } from "./LoadForm";
import { Schedules } from "./Schedules";
import { Upkeep } from "./Upkeep";
import { WhoIsThere } from "./WhoIsThere";
import { YearPlot } from "./YearPlot";

/** When the light is lit, what a year of it takes, and what options cost over years. */
export function UseStage() {
  const { id } = useWork().circuit;
  const kept = useUse(id);
  const put = usePutUse(id);
  const [draft, setDraft] = useState<Use>();
  // Until a time zone is kept, the browser’s own stands in the form.
  const here = Intl.DateTimeFormat().resolvedOptions().timeZone;
  const first = kept.data?.version === "" && here ? { ...kept.data.use, zone: here } : kept.data?.use;
  const use = draft ?? first;
  const change = (to: Partial<Use>) => use && setDraft({ ...use, ...to });
  return (
    <div className="mx-auto max-w-[62rem]">
      <Notice error={kept.error ?? put.error} />
      {kept.isPending && <Waiting what="Working out the year" />}
      {use && kept.data && (
        <>
          <form
            onSubmit={(event) => {
              event.preventDefault();
              put.mutate(use, { onSuccess: () => setDraft(undefined) });
            }}
          >
            <Schedules use={use} change={change} />
            <WhoIsThere use={use} lights={kept.data.lights} reaching={kept.data.reaching} change={change} />
            <LoadForm use={use} tried={kept.data.tried} change={change} />
            <div className={`${look.row} items-center pt-3`}>
              <button type="submit" className={look.strong} disabled={put.isPending || !draft}>
                Keep and work out
              </button>
              <button type="button" className={look.button} disabled={!draft} onClick={() => setDraft(undefined)}>
                As it was kept
              </button>
              {draft && <span className="text-soft">Changed, not kept yet</span>}
              <a className={`${look.button} ml-auto`} href={`/api/v1/circuits/${id}/use/calendar`} download>
                Calendar of the year
              </a>
            </div>
          </form>
          <YearPlot year={kept.data.year} />
          <Upkeep circuit={id} />
        </>
      )}
    </div>
  );
}
