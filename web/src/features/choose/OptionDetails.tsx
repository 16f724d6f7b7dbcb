import { Check, Minus } from "lucide-react";
import type { Option } from "../../api/client";
import { Core } from "../circuit/Core";
import { Checks } from "./Checks";
import { LinkSets } from "./LinkSets";
import { useWork } from "../circuit/work";
import { look } from "../../ui/look";

/** A yes or a no in a table, for eyes and for readers. */
export function Mark({ is, children }: { is: boolean; children?: string }) {
  return (
    <>
      {is ? <Check aria-hidden size={16} /> : <Minus aria-hidden size={16} />}
      <span className={children ? undefined : "sr-only"}>{children ?? (is ? "yes" : "no")}</span>
    </>
  );
}

/** All that is known of an option. */
export function OptionDetails({ option }: { option: Option }) {
  const { circuit, change, busy, word } = useWork();
  return (
    <div className="border-l border-soft pl-4 [&_caption]:pt-2.5 [&_caption]:pb-1 [&_caption]:text-left [&_caption]:font-serif [&_caption]:font-semibold [&_h3]:pt-2.5 [&_h3]:pb-1 [&_td_svg]:mr-1 [&_td_svg]:inline [&_td_svg]:align-[-2px]">
      <div className="grid grid-cols-[repeat(auto-fit,minmax(18rem,1fr))] gap-x-8 gap-y-1">
        <ul aria-label="For it">
          {option.pros?.map((p) => (
            <li key={p}>+ {p}</li>
          ))}
        </ul>
        <ul aria-label="Against it">
          {option.cons?.map((c) => (
            <li key={c}>− {c}</li>
          ))}
        </ul>
      </div>
      <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="What each place can do">
        <table>
          <caption>What each place can do</caption>
          <thead>
            <tr>
              <th scope="col">Place</th>
              <th scope="col">Device</th>
              <th scope="col">Dims</th>
              <th scope="col">Scenes, by rules</th>
              <th scope="col">Up is on</th>
              <th scope="col">Battery</th>
              {option.outages?.map((x) => (
                <th key={x.when} scope="col">
                  {x.name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {option.places?.map((p) => (
              <tr key={p.device}>
                <th scope="row">{p.where}</th>
                <td>{p.kept ? `${p.name}, stays` : p.name}</td>
                <td>
                  <Mark is={p.dims} />
                </td>
                <td>
                  <Mark is={p.scenes} />
                </td>
                <td>
                  <Mark is={p.upIsOn} />
                </td>
                <td>
                  <Mark is={p.battery} />
                </td>
                {option.outages?.map((x) => (
                  <td key={x.when}>
                    <Mark is={x.works.includes(p.box)}>{x.works.includes(p.box) ? "works" : "does not"}</Mark>
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <ul className={look.dashes}>
        {option.outages?.map((x) => (
          <li key={x.when}>{x.text}</li>
        ))}
      </ul>
      {option.alternatives && option.alternatives.length > 0 && (
        <section>
          <h3>Wired just so, with other devices</h3>
          <ul>
            {option.alternatives.map((a) => (
              <li
                key={a.kit}
                className="flex flex-wrap items-center justify-between gap-x-4 gap-y-2 border-l border-rule py-2 pl-3.5 not-first:border-t [&>span:first-child]:flex-[1_1_18rem]"
              >
                <span>{a.text}</span>
                <button
                  type="button"
                  className={look.button}
                  disabled={busy}
                  onClick={() => change({ do: "choose", option: `${option.id}:${a.kit}` })}
                >
                  Choose with these
                </button>
              </li>
            ))}
          </ul>
        </section>
      )}
      <LinkSets option={option.id} />
      <section>
        <h3>Why each core</h3>
        <ul className="[&>li]:py-1">
          {option.conductors?.map((c) => {
            const [cable = "", core = ""] = c.core.split(".");
            return (
              <li key={c.core}>
                <Core core={core} /> <span className="text-soft">{circuit.reading.names.cables[cable] ?? "the new cable"}</span>{" "}
                <strong>{word(c.role)}</strong> {c.text}
              </li>
            );
          })}
        </ul>
      </section>
      <section>
        <h3>What was proved ({option.checks?.length} checks)</h3>
        <Checks option={option} />
      </section>
    </div>
  );
}
