import { UserRound } from "lucide-react";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { usePractices } from "../api/queries";
import { setWhoWorks, whoWorks } from "../api/whoWorks";
import { Choice } from "./Choice";
import { setSettings, useSettings, type Settings } from "./settings";
import { among } from "./among";
import { look } from "./look";
import { Tool } from "./Tool";

const currencies: [string, string][] = [
  ["none", "plain numbers"],
  ["AUD", "Australian dollars"],
  ["CAD", "Canadian dollars"],
  ["CHF", "Swiss francs"],
  ["EUR", "euros"],
  ["GBP", "pounds"],
  ["INR", "rupees"],
  ["NZD", "New Zealand dollars"],
  ["USD", "US dollars"],
];

const unitNames: [string, string][] = [
  ["practice", "as they are stamped"],
  ["metric", "in cm³ and mm"],
  ["inch", "in in³ and inches"],
];

const dates = ["here", "iso", "day", "month"] as const;
const dateNames: Record<Settings["dates"], string> = {
  here: "as this machine does",
  iso: "2026-11-26",
  day: "26.11.2026",
  month: "11/26/2026",
};

/** Who works here, which goes with each change into the history; and how this machine writes prices and dates. */
export function Who() {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState(whoWorks());
  const settings = useSettings();
  const practices = usePractices();
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger asChild>
        <Tool icon={UserRound} label={name ? `Who works here: ${name}` : "Who works here"} />
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Content className={`${look.dialog} w-80`}>
          <Dialog.Title className="mb-2">Who works here</Dialog.Title>
          <Dialog.Description>
            The name stands in the history beside each change made on this machine. It stays here, and in what is recorded.
          </Dialog.Description>
          <form
            onSubmit={(e) => {
              e.preventDefault();
              setWhoWorks(name);
              setOpen(false);
            }}
          >
            <label className={look.field}>
              <span>Name</span>
              <input value={name} maxLength={120} onChange={(e) => setName(e.target.value)} autoComplete="name" />
            </label>
            <div className="grid py-2">
              <Choice
                label="Prices in"
                value={settings.currency || "none"}
                options={currencies}
                set={(c) => setSettings({ currency: c === "none" ? "" : c })}
              />
              <Choice
                label="Dates"
                value={settings.dates}
                options={dates.map((d): [string, string] => [d, dateNames[d]])}
                set={(d) => setSettings({ dates: among(dates, d) ?? "here" })}
              />
              <Choice
                label="Boxes measured"
                value={settings.units}
                options={unitNames}
                set={(u) => setSettings({ units: among(["practice", "metric", "inch"], u) ?? "practice" })}
              />
              <Choice
                label="New circuits in"
                value={settings.practice || "na"}
                options={(practices.data ?? []).map((p): [string, string] => [p.id, p.name])}
                set={(p) => setSettings({ practice: p })}
              />
            </div>
            <div className={look.row}>
              <button type="submit" className={look.strong}>
                Keep
              </button>
              <Dialog.Close className={look.button}>Close</Dialog.Close>
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
