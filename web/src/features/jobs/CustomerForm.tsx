import { useMutation, useQueryClient } from "@tanstack/react-query";
import { client, take, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useCustomer } from "../../api/queries";
import { Fold } from "../../ui/Fold";
import { look } from "../../ui/look";
import { Notice } from "../../ui/Notice";

type Customer = Schemas["Customer"];
type Kept = Schemas["KeptCustomer"];

const fields: [keyof Customer, string][] = [
  ["name", "Name"],
  ["address", "Address"],
  ["phone", "Phone"],
  ["notes", "Notes"],
];

/** For whom the job is done: it stands on the record, and in no log of the program. Kept as one leaves a field. */
export function CustomerForm({ job }: { job: string }) {
  const queries = useQueryClient();
  const key = keys.customer(job);
  const kept = useCustomer(job);
  const put = useMutation({
    scope: { id: `customer-${job}` },
    mutationFn: (change: Customer) => {
      const now = queries.getQueryData<Kept>(key);
      const body = { version: now?.version ?? "", customer: { ...now?.customer, ...change } };
      return take(client.PUT("/jobs/{job}/customer", { params: { path: { job } }, body }));
    },
    onSuccess: (now) => queries.setQueryData(key, now),
    onError: () => void queries.invalidateQueries({ queryKey: key }), // changed in another place: what stands there now is shown
  });
  return (
    <Fold section title={kept.data?.customer.name ? `Customer: ${kept.data.customer.name}` : "Customer"}>
      <Notice error={kept.error ?? put.error} />
      {kept.data && (
        <div key={kept.data.version} className={look.fields}>
          {fields.map(([field, label]) => (
            <label key={field} className={look.field}>
              <span>{label}</span>
              <input
                defaultValue={kept.data.customer[field] ?? ""}
                maxLength={field === "notes" ? 2000 : 200}
                onBlur={(e) => {
                  const now = queries.getQueryData<Kept>(key)?.customer;
                  if (e.target.value !== (now?.[field] ?? "")) put.mutate({ [field]: e.target.value });
                }}
              />
            </label>
          ))}
        </div>
      )}
    </Fold>
  );
}
