import { useMutation, useQueryClient } from "@tanstack/react-query";
import { client, take, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useFirm } from "../../api/queries";
import { look } from "../../ui/look";
import { Notice, Waiting } from "../../ui/Notice";
import { Shell, Trail } from "../../ui/Shell";

type Kept = Schemas["KeptFirm"];
type Firm = Kept["firm"];

const fields: [Exclude<keyof Firm, "picture">, string][] = [
  ["name", "Name of the firm"],
  ["licence", "Licence number"],
  ["address", "Address"],
  ["phone", "Phone"],
];

const key = keys.firm();

/** Who does the work: the head of every record. Kept as one leaves a field. */
export function FirmPage() {
  const queries = useQueryClient();
  const kept = useFirm();
  const put = useMutation({
    scope: { id: "firm" },
    mutationFn: (change: Firm) => {
      const now = queries.getQueryData<Kept>(key);
      return take(client.PUT("/firm", { body: { version: now?.version ?? "", firm: { ...now?.firm, ...change } } }));
    },
    onSuccess: (now) => queries.setQueryData(key, now),
    onError: () => void queries.invalidateQueries({ queryKey: key }),
  });
  const picture = kept.data?.firm.picture;
  return (
    <Shell title="Firm" trail={<Trail>Firm</Trail>}>
      <section className={look.page}>
        <h1>Firm</h1>
        <p className={look.lead}>It stands at the head of every record that is handed over, and in no log of the program.</p>
        <Notice error={kept.error ?? put.error} />
        {kept.isPending && <Waiting what="Reading the firm" />}
        {kept.data && (
          <div className={look.fields}>
            {fields.map(([field, label]) => (
              <label key={field} className={look.field}>
                <span>{label}</span>
                <input
                  defaultValue={kept.data.firm[field] ?? ""}
                  maxLength={200}
                  onBlur={(e) => {
                    const now = queries.getQueryData<Kept>(key)?.firm[field] ?? "";
                    if (e.target.value !== now) put.mutate({ [field]: e.target.value });
                  }}
                />
              </label>
            ))}
          </div>
        )}
        {picture && <img className="my-3 max-h-24 border border-rule" src={`data:image/jpeg;base64,${picture}`} alt="The firm’s picture" />}
        <label className={look.button}>
          {picture ? "Another picture" : "Picture for the head"}
          <input
            type="file"
            className="sr-only"
            accept="image/jpeg,image/png,image/webp"
            onChange={(e) => {
              const file = e.target.files?.[0];
              if (file) void base64(file).then((data) => put.mutate({ picture: data }));
            }}
          />
        </label>
      </section>
    </Shell>
  );
}

/** A file as text that travels within JSON. */
async function base64(file: File): Promise<string> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  let text = "";
  for (const byte of bytes) text += String.fromCharCode(byte);
  return btoa(text);
}
