import { useMutation } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { client, take, type Schemas } from "../../api/client";
import { abilities, limitedLoads, quantities } from "../../api/terms.gen";
import { Notice } from "../../ui/Notice";
import { useOnce } from "../../ui/useOnce";
import { Fold } from "../../ui/Fold";
import { Choice } from "../../ui/Choice";
import { Tick } from "../../ui/Tick";
import { look } from "../../ui/look";

type Device = Schemas["Device"];
const slug = (name: string) =>
  name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-+|-+$/g, "")
    .slice(0, 32);

/** A copy of a model, or one's own, with its numbers and its behaviour; kept once it behaves on the bench. */
export function DeviceForm(props: { from: Schemas["LibraryDevice"]; close: () => void; kept: (name: string) => void }) {
  const { from } = props;
  const [device, setDevice] = useState<Device>(() =>
    from.own ? from.device : { ...from.device, name: `${from.device.name}, copy`, id: "" },
  );
  const [deep, setDeep] = useState(() => JSON.stringify({ stands: from.device.stands, model: from.device.model }, null, 2));
  const [wrong, setWrong] = useState("");
  const top = useRef<HTMLElement>(null);
  const once = useOnce();
  useEffect(() => top.current?.focus(), []);
  const set = (next: Partial<Device>) => setDevice((before) => ({ ...before, ...next }));
  const whole = (): Device | undefined => {
    try {
      const { stands, model }: Pick<Device, "stands" | "model"> = JSON.parse(deep);
      setWrong("");
      return { ...device, id: device.id || slug(device.name), stands, model };
    } catch {
      setWrong("The behaviour is no JSON: look at its brackets, quotes and commas.");
      return undefined;
    }
  };
  const bench = useMutation({ mutationFn: (body: Device) => take(client.POST("/devices/try", { body })) });
  const keep = useMutation({
    mutationFn: (body: Device) => take(client.POST("/devices", { params: { query: { base: from.version } }, body })),
    onSuccess: (d) => props.kept(d.device.name),
  });
  return (
    <section
      className="my-4 border-[3px] border-double border-ink px-4 pt-3 pb-4"
      aria-label={from.own ? `Change ${from.device.name}` : `Copy ${from.device.name}`}
      ref={top}
      tabIndex={-1}
    >
      <h2>{from.own ? `Change ${from.device.name}` : `A copy of: ${from.device.name}`}</h2>
      <form
        className="space-y-2.5"
        onSubmit={(e) => {
          e.preventDefault();
          const body = whole();
          if (body) once("keep", () => keep.mutateAsync(body));
        }}
      >
        <div className={look.fields}>
          <label className={look.field}>
            <span>Name</span>
            <input required maxLength={80} value={device.name} onChange={(e) => set({ name: e.target.value })} />
          </label>
          <label className={look.field}>
            <span>Short name in files</span>
            <input
              maxLength={32}
              pattern="[a-z0-9][a-z0-9\-]*"
              placeholder={slug(device.name)}
              value={device.id}
              disabled={from.own}
              onChange={(e) => set({ id: e.target.value })}
            />
          </label>
          <Choice
            above
            label="Hub"
            value={device.hub}
            options={[
              ["none", "none"],
              ["optional", "optional"],
              ["needed", "needed"],
            ]}
            set={(hub) => set({ hub })}
          />
        </div>
        <label className={look.field}>
          <span>What it does, in a sentence</span>
          <input required maxLength={400} value={device.about} onChange={(e) => set({ about: e.target.value })} />
        </label>
        <div className={look.fields}>
          {quantities.map(([key, label]) => (
            <NumberField
              key={key}
              label={label}
              value={device[key] as number | undefined}
              set={(v) => set({ [key]: v ?? (key === "minimumWatts" ? undefined : 0) })}
            />
          ))}
        </div>
        <div className={look.fields}>
          {limitedLoads.map((load) => (
            <NumberField
              key={load}
              label={`At most, W ${load}`}
              value={device.limits?.[load]}
              set={(v) => {
                const rest = Object.entries(device.limits ?? {}).filter(([k]) => k !== load);
                set({ limits: Object.fromEntries(v === undefined ? rest : [...rest, [load, v]]) });
              }}
            />
          ))}
        </div>
        <div className="flex basis-full flex-wrap gap-x-4">
          {abilities.map(([key, label]) => (
            <Tick key={key} checked={device[key] === true} set={(so) => set({ [key]: so })}>
              {label}
            </Tick>
          ))}
        </div>
        <Fold title="Behaviour: terminals, what each stands on, supply, switches, inputs">
          <label className={look.field}>
            <span>As in the circuit file; see the format’s description</span>
            <textarea
              className="w-full rounded-[2px] border border-soft bg-sheet px-2.5 py-2 font-mono text-[0.88rem]"
              rows={16}
              spellCheck={false}
              value={deep}
              onChange={(e) => setDeep(e.target.value)}
            />
          </label>
        </Fold>
        {wrong && (
          <p className={look.notice} role="alert">
            {wrong}
          </p>
        )}
        <Notice error={keep.error ?? bench.error} />
        {bench.data && (
          <p className={look.notice} role="status">
            {bench.data.text}
          </p>
        )}
        <div className={look.row}>
          <button
            type="button"
            className={look.button}
            disabled={bench.isPending}
            onClick={() => {
              const body = whole();
              if (body) bench.mutate(body);
            }}
          >
            Try it on the bench
          </button>
          <button type="submit" className={look.strong} disabled={keep.isPending}>
            Keep
          </button>
          <button type="button" className={look.button} onClick={props.close}>
            Leave it
          </button>
        </div>
      </form>
    </section>
  );
}

function NumberField(props: { label: string; value: number | undefined; set: (value: number | undefined) => void }) {
  const [text, setText] = useState(props.value === undefined ? "" : String(props.value));
  return (
    <label className={look.field}>
      <span>{props.label}</span>
      <input
        inputMode="decimal"
        pattern="[0-9]*([.,][0-9]*)?"
        value={text}
        onChange={(e) => {
          setText(e.target.value);
          const value = Number(e.target.value.replace(",", "."));
          if (e.target.value === "") props.set(undefined);
          else if (Number.isFinite(value)) props.set(value);
        }}
      />
    </label>
  );
}
