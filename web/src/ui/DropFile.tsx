import { FileUp } from "lucide-react";
import { useRef, useState } from "react";
import { Notice } from "./Notice";

/** A place to drop a file, or to choose one. */
export function DropFile(props: {
  label: string;
  accept: string;
  read: { mutate: (file: File) => void; isPending: boolean; error: unknown };
}) {
  const input = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const take = (files: FileList | null) => {
    const file = files?.[0];
    if (file) props.read.mutate(file);
    if (input.current) input.current.value = "";
  };
  return (
    <div
      className={over ? "drop over" : "drop"}
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        e.preventDefault();
        setOver(false);
        take(e.dataTransfer.files);
      }}
    >
      <label className="button">
        <FileUp aria-hidden size={18} />
        {props.label}
        <input ref={input} type="file" className="sr-only" accept={props.accept} onChange={(e) => take(e.target.files)} />
      </label>
      <span className="quiet" role="status">
        {props.read.isPending ? "Reading …" : "or drop one here"}
      </span>
      <Notice error={props.read.error}>
        <p>Nothing was written.</p>
      </Notice>
    </div>
  );
}
