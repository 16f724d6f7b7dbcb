import type { ReactNode } from "react";
import { Notice } from "./Notice";
import { useOnce } from "./useOnce";
import { look } from "./look";

/** A form of one line: a name, what else is needed, and the button that makes it. */
export function LineForm(props: {
  label: string;
  placeholder: string;
  name: string;
  setName: (name: string) => void;
  children?: ReactNode;
  button: string;
  make: { mutateAsync: () => Promise<unknown>; isPending: boolean; error: unknown };
}) {
  const once = useOnce();
  return (
    <form
      className="my-7 flex flex-wrap items-end gap-3 border-t border-rule pt-4"
      onSubmit={(event) => {
        event.preventDefault();
        once("make", () => props.make.mutateAsync());
      }}
    >
      <label className={look.field}>
        <span>{props.label}</span>
        <input
          value={props.name}
          maxLength={120}
          required
          onChange={(e) => props.setName(e.target.value)}
          placeholder={props.placeholder}
        />
      </label>
      {props.children}
      <button type="submit" className={look.strong} disabled={props.make.isPending}>
        {props.button}
      </button>
      <Notice error={props.make.error} />
    </form>
  );
}
