import { UserRound } from "lucide-react";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { setWhoWorks, whoWorks } from "../api/whoWorks";

/** Who works here: it goes with each change into the history. */
export function Who() {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState(whoWorks());
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className="tool" aria-label={name ? `Who works here: ${name}` : "Who works here"}>
        <UserRound aria-hidden size={18} />
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Content className="panel dialog w-80">
          <Dialog.Title className="panel-title">Who works here</Dialog.Title>
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
            <label className="field">
              <span>Name</span>
              <input value={name} maxLength={120} onChange={(e) => setName(e.target.value)} autoComplete="name" />
            </label>
            <div className="row">
              <button type="submit" className="button strong">
                Keep
              </button>
              <Dialog.Close className="button">Close</Dialog.Close>
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
