import { Zap, ZapOff } from "lucide-react";
import type { Fitting } from "../../api/fitting";
import { useDates } from "../../ui/settings";
import { boxName, useWork } from "../circuit/work";

/** What the log knows of the power: in words, with its sign. */
export function Power({ fitting }: { fitting: Fitting }) {
  const { circuit } = useWork();
  const written = useDates();
  const on = fitting.power === "on";
  const Icon = on ? Zap : ZapOff;
  return (
    <p role="status" className={`flex items-center gap-2 border-l-6 border-ink px-3 py-1.5 ${on ? "bg-room font-semibold" : ""}`}>
      <Icon aria-hidden size={18} className="shrink-0" />
      {on
        ? "The power may be on."
        : `Off, locked and labelled${fitting.since ? ` since ${written(fitting.since, true)}` : ""}. Proved dead: ${fitting.proved.map((b) => boxName(circuit, b)).join(", ") || "no box yet"}.`}
    </p>
  );
}
