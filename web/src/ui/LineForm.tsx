import type { ReactNode } from "react";
import { Notice } from "./Notice";
import { useOnce } from "./useOnce";

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
      className="line-form"
      onSubmit={(event) => {
        event.preventDefault();
        once("make", () => props.make.mutateAsync());
      }}
    >
      <label className="field grow">
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
      <button type="submit" className="button strong" disabled={props.make.isPending}>
        {props.button}
      </button>
      <Notice error={props.make.error} />
    </form>
  );
}
