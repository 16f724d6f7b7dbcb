import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Pencil } from "lucide-react";
import { useState } from "react";
import { asFile, client, ProblemError, take, type Schemas } from "../../api/client";
import { keys } from "../../api/keys";
import { useDevices } from "../../api/queries";
import { DeviceForm } from "./DeviceForm";
import { DropFile } from "../../ui/DropFile";
import { Notice, Waiting } from "../../ui/Notice";
import { Remove } from "../../ui/Remove";
import { Shell, Trail } from "../../ui/Shell";
import { look } from "../../ui/look";
import { Tool } from "../../ui/Tool";
import { useMoney } from "../../ui/settings";

/** A list of models: what each is on the left, what can be done with it on the right. */
const models =
  "[&>li]:flex [&>li]:flex-wrap [&>li]:justify-between [&>li]:gap-x-4 [&>li]:gap-y-1 [&>li]:border-t [&>li]:border-rule [&>li]:py-2 [&>li>.row]:items-start [&>li>div]:flex-[1_1_22rem]";

type Known = Schemas["LibraryDevice"];

/** The device models that planning draws on: the catalogue, and one's own. */
export function DevicesPage() {
  const devices = useDevices();
  const queries = useQueryClient();
  const fresh = () => {
    void queries.invalidateQueries({ queryKey: keys.devices() });
    void queries.invalidateQueries({ queryKey: keys.plan() });
  };
  const [edited, setEdited] = useState<Known>();
  const [said, setSaid] = useState("");
  const [held, setHeld] = useState<File>();
  const remove = useMutation({
    mutationFn: (known: Known) =>
      take(client.DELETE("/devices/{device}", { params: { path: { device: known.device.id }, query: { base: known.version } } })),
    onSettled: fresh,
  });
  const read = useMutation({
    mutationFn: (file: File) => {
      setHeld(file);
      return take(client.POST("/devices/file", asFile(file)));
    },
    onSuccess: ({ kept }) => {
      setSaid(kept === 1 ? "1 model was read and behaves." : `${kept} models were read, and all of them behave.`);
      fresh();
    },
  });
  const replace = useMutation({
    mutationFn: (file: File) => take(client.POST("/devices/file", { params: { query: { replace: true } }, ...asFile(file) })),
    onSuccess: ({ kept }) => {
      read.reset();
      setSaid(
        kept === 1
          ? "1 model was read, in the stead of yours where they had one name in files."
          : `${kept} models were read, in the stead of yours where they had one name in files.`,
      );
      fresh();
    },
  });
  const all = devices.data?.devices ?? [];
  const kinds = devices.data?.kinds ?? [];
  const own = all.filter((d) => d.own);
  return (
    <Shell title="Device models" trail={<Trail>Device models</Trail>}>
      <section className={look.page}>
        <h1>Device models</h1>
        <p className={look.lead}>
          Every plan is made of these. They are generic: copy the one that is most like the device in your hand, and set its numbers from
          its sheet.
        </p>
        <Notice error={devices.error ?? remove.error} />
        {devices.isPending && <Waiting what="Reading the models" />}
        <h2 className={look.title}>Your own</h2>
        {devices.data && own.length === 0 && <p className={look.empty}>None yet. Copy one from the catalogue below.</p>}
        <ul className={models}>
          {own.map((d) => (
            <Model key={d.device.id} known={d}>
              <Tool icon={Pencil} label={`Change ${d.device.name}`} onClick={() => setEdited(d)} />
              <Remove
                what={d.device.name}
                warning="Plans that were chosen with it keep it; new plans do without."
                onRemove={() => remove.mutate(d)}
              />
            </Model>
          ))}
        </ul>
        <div className={look.row}>
          <DropFile label="Import models" accept=".json,application/json" read={read} />
          {own.length > 0 && (
            <a className={look.button} href="/api/v1/devices/file" download="device-models.json">
              Export your models
            </a>
          )}
        </div>
        {held && read.error instanceof ProblemError && read.error.problem.code === "stale" && (
          <p>
            <button type="button" className={look.button} disabled={replace.isPending} onClick={() => replace.mutate(held)}>
              Take the file’s in their stead
            </button>
          </p>
        )}
        <Notice error={replace.error} />
        <p role="status" className="text-soft">
          {said}
        </p>
        {edited && (
          <DeviceForm
            key={edited.device.id}
            from={edited}
            close={() => setEdited(undefined)}
            kept={(name) => {
              setEdited(undefined);
              setSaid(`${name} is kept, and stands in every plan where it fits.`);
              fresh();
            }}
          />
        )}
        {kinds.map(({ id: kind, text: name }) => {
          const of = all.filter((d) => d.device.kind === kind && !d.own);
          return of.length === 0 ? null : (
            <section key={kind} aria-label={name}>
              <h2 className={look.title}>{name}</h2>
              <ul className={models}>
                {of.map((d) => (
                  <Model key={d.device.id} known={d}>
                    <button type="button" className={look.button} onClick={() => setEdited(d)}>
                      Copy<span className="sr-only"> {d.device.name}</span>
                    </button>
                  </Model>
                ))}
              </ul>
            </section>
          );
        })}
      </section>
    </Shell>
  );
}

function Model({ known, children }: { known: Known; children: React.ReactNode }) {
  const d = known.device;
  const money = useMoney();
  const limits = Object.entries(d.limits ?? {})
    .map(([load, watts]) => `${watts} W ${load}`)
    .join(", ");
  const facts = [
    d.dims && "dims",
    d.scenes && "scenes",
    d.held && "tells when it is held",
    d.batteryMonths && `battery, ${d.batteryMonths} months`,
    d.radio.join(", "),
    d.hub === "needed" && "needs a hub",
    !d.local && "needs the internet",
    d.depthMm > 0 && `${d.depthMm} mm deep`,
    d.minimumWatts && `${d.minimumWatts} W at least`,
    limits && `at most ${limits}`,
    `standby ${d.standbyWatts} W`,
    `price ${money(d.price)}`,
  ];
  return (
    <li>
      <div>
        <strong>{d.name}</strong>
        <p>{known.text}</p>
        <p className="text-soft">{facts.filter(Boolean).join(" · ")}</p>
      </div>
      <span className={look.row}>{children}</span>
    </li>
  );
}
