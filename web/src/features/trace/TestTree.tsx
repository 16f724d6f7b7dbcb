import { useQueryClient } from "@tanstack/react-query";
import { Printer } from "lucide-react";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useFollowed, useTree, type Prefer } from "../../api/queries";
import { Notice } from "../../ui/Notice";
import { useWork } from "../circuit/work";
import { Fold } from "../../ui/Fold";
import { look } from "../../ui/look";

type Node = Schemas["TestNode"];

/** The whole way before the first step: every reading of every next test. */
export function TestTree({ prefer }: { prefer: Prefer }) {
  const { circuit } = useWork();
  const queries = useQueryClient();
  const [asked, setAsked] = useState<string>();
  const key = `${circuit.revision} ${prefer}`;
  const tree = useTree(circuit.id, circuit.revision, prefer, asked === key);
  const followed = useFollowed(circuit.id, circuit.revision, prefer, tree.isFetching);
  return (
    <Fold section className={look.chapter} title="The whole way, before the first step">
      {!tree.data && (
        <div className={look.row}>
          <button type="button" className={look.button} disabled={tree.isFetching} onClick={() => setAsked(key)}>
            Follow every reading to the end
          </button>
          {tree.isFetching && (
            <button
              type="button"
              className={look.button}
              onClick={() => {
                setAsked(undefined);
                void queries.cancelQueries({ queryKey: keys.tree(circuit.id) });
              }}
            >
              Stop
            </button>
          )}
          <span role="status">
            {tree.isFetching ? `Following every reading … ${followed.data ? `${followed.data.tests} tests so far` : ""}` : ""}
          </span>
        </div>
      )}
      <Notice error={tree.error} />
      {tree.data && (
        <div>
          <p>
            <strong>
              At most {tree.data.worstWalks} {tree.data.worstWalks === 1 ? "walk" : "walks"} to the panel, {tree.data.meanWalks} in the
              mean; at most {tree.data.worstTests} readings, {tree.data.meanTests} in the mean, of them{" "}
              {tree.data.meanLive === 0 ? "none" : tree.data.meanLive} live.
            </strong>
          </p>
          {tree.data.cut && <p className="text-soft">Some branches go on further than was followed here.</p>}
          <button type="button" className={`${look.button} print:hidden`} onClick={() => window.print()}>
            <Printer aria-hidden size={18} /> Print
          </button>
          <TreeNode node={tree.data} />
        </div>
      )}
    </Fold>
  );
}

function TreeNode({ node }: { node: Node }) {
  if (!node.text)
    return (
      <p className="italic">{node.done ? "All is certain." : node.cut ? "Goes on." : "What is left stays open with these boxes open."}</p>
    );
  return (
    <div>
      <p>{node.text}</p>
      <ul className="mt-[0.2rem] mb-[0.4rem] ml-[0.2rem] border-l border-soft pl-3.5">
        {node.branches?.map((b) => (
          <li key={b.words}>
            <strong>{b.words}</strong> <span className="text-soft">leaves {b.then.worlds}</span>
            <TreeNode node={b.then} />
          </li>
        ))}
      </ul>
    </div>
  );
}
