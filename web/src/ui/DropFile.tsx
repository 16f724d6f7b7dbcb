import { FileUp } from "lucide-react";
import { useRef, useState } from "react";
import { Notice } from "./Notice";
import { look } from "./look";

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
      className={`flex flex-wrap items-center gap-3.5 p-4 ${over ? "border-2 border-ink" : "border border-dashed border-soft"}`}
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
      <label className={`${look.button} focus-within:outline-3 focus-within:outline-offset-2 focus-within:outline-ink`}>
        <FileUp aria-hidden size={18} />
        {props.label}
        <input ref={input} type="file" className="sr-only" accept={props.accept} onChange={(e) => take(e.target.files)} />
      </label>
      <span className="text-soft" role="status">
        {props.read.isPending ? "Reading …" : "or drop one here"}
      </span>
      <Notice error={props.read.error}>
        <p>Nothing was written.</p>
      </Notice>
    </div>
  );
}
