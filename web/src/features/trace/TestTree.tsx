import { useQueryClient } from "@tanstack/react-query";
import { Printer } from "lucide-react";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useFollowed, useTree, type Prefer } from "../../api/queries";
import { Notice } from "../../ui/Notice";
import { useWork } from "../circuit/work";

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
    <details className="block tree">
      <summary>The whole way, before the first step</summary>
      {!tree.data && (
        <div className="row">
          <button type="button" className="button" disabled={tree.isFetching} onClick={() => setAsked(key)}>
            Follow every reading to the end
          </button>
          {tree.isFetching && (
            <button
              type="button"
              className="button"
              onClick={() => {
                setAsked(undefined);
                void queries.cancelQueries({ queryKey: ["tree", circuit.id] });
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
        <div className="print-tree">
          <p>
            <strong>
              At most {tree.data.worstWalks} {tree.data.worstWalks === 1 ? "walk" : "walks"} to the panel, {tree.data.meanWalks} in the
              mean; at most {tree.data.worstTests} readings, {tree.data.meanTests} in the mean, of them{" "}
              {tree.data.meanLive === 0 ? "none" : tree.data.meanLive} live.
            </strong>
          </p>
          {tree.data.cut && <p className="quiet">Some branches go on further than was followed here.</p>}
          <button type="button" className="button no-print" onClick={() => window.print()}>
            <Printer aria-hidden size={18} /> Print
          </button>
          <TreeNode node={tree.data} />
        </div>
      )}
    </details>
  );
}

function TreeNode({ node }: { node: Node }) {
  if (!node.text)
    return (
      <p className="tree-end">{node.done ? "All is certain." : node.cut ? "Goes on." : "What is left stays open with these boxes open."}</p>
    );
  return (
    <div className="tree-node">
      <p>{node.text}</p>
      <ul>
        {node.branches?.map((b) => (
          <li key={b.words}>
            <strong>{b.words}</strong> <span className="quiet">leaves {b.then.worlds}</span>
            <TreeNode node={b.then} />
          </li>
        ))}
      </ul>
    </div>
  );
}
