import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { client, take, type Schemas } from "../../api/client";
import { Fold } from "../../ui/Fold";
import { look } from "../../ui/look";
import { Notice } from "../../ui/Notice";

type Customer = Schemas["Customer"];

const fields: [keyof Customer, string][] = [
  ["name", "Name"],
  ["address", "Address"],
  ["phone", "Phone"],
  ["notes", "Notes"],
];

/** For whom the job is done: it stands on the record, and in no log of the program. Kept as one leaves a field. */
export function CustomerForm({ job }: { job: string }) {
  const queries = useQueryClient();
  const key = ["customer", job];
  const kept = useQuery({
    queryKey: key,
    queryFn: ({ signal }) => take(client.GET("/jobs/{job}/customer", { params: { path: { job } }, signal })),
  });
  const put = useMutation({
    scope: { id: `customer-${job}` },
    mutationFn: (body: Customer) => take(client.PUT("/jobs/{job}/customer", { params: { path: { job } }, body })),
    onSuccess: (now) => queries.setQueryData(key, now),
  });
  return (
    <Fold section title={kept.data?.name ? `Customer: ${kept.data.name}` : "Customer"}>
      <Notice error={kept.error ?? put.error} />
      {kept.data && (
        <div className={look.fields}>
          {fields.map(([field, label]) => (
            <label key={field} className={look.field}>
              <span>{label}</span>
              <input
                defaultValue={kept.data[field] ?? ""}
                maxLength={field === "notes" ? 2000 : 200}
                onBlur={(e) => {
                  const now = queries.getQueryData<Customer>(key) ?? {};
                  if (e.target.value !== (now[field] ?? "")) put.mutate({ ...now, [field]: e.target.value });
                }}
              />
            </label>
          ))}
        </div>
      )}
    </Fold>
  );
}
