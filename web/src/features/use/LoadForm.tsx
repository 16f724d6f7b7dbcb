import { Trash2 } from "lucide-react";
import type { Tried, Use } from "../../api/use";
import { Amount } from "../../ui/Amount";
import { look } from "../../ui/look";
import { usePriced } from "../../ui/settings";
import { Tool } from "../../ui/Tool";

/** What the light draws and what that costs. */
export function LoadForm({ use, tried, change }: { use: Use; tried: Tried; change: (to: Partial<Use>) => void }) {
  const priced = usePriced();
  const { load, tariff } = use;
  return (
    <section className={look.chapter}>
      <h2>Load and price</h2>
      <div className={look.fields}>
        <Amount label="Watts at full level" value={load.watts} set={(watts) => change({ load: { ...load, watts } })} />
        <Amount label="Watts with the light off" value={load.standby} set={(standby) => change({ load: { ...load, standby } })} />
        <Amount
          label="Highest level, % (0: all)"
          most={100}
          value={load.most ?? 0}
          set={(most) => change({ load: { ...load, most: Math.round(most) } })}
        />
        <Amount
          label="Lowest level that holds steady, % (0: not tried)"
          most={100}
          value={load.least ?? 0}
          set={(least) => change({ load: { ...load, least: Math.round(least) } })}
        />
        <Amount label={priced("Price of a kWh")} value={tariff.price} set={(price) => change({ tariff: { ...tariff, price } })} />
        <Amount label="Hours a day today, at full" most={24} value={use.todayHours} set={(todayHours) => change({ todayHours })} />
      </div>
      {tried && (tried.lowest !== (load.least ?? 0) || tried.highest !== (load.most ?? 0)) && (
        <p className={`${look.row} items-center`}>
          <span>
            When it was tried: {tried.lowest ? `steady from ${tried.lowest} %` : "no lowest level noted"}
            {tried.highest ? `, ${tried.highest} % at most` : ""}.
          </span>
          <button
            type="button"
            className={look.small}
            onClick={() => change({ load: { ...load, least: tried.lowest || (load.least ?? 0), most: tried.highest || (load.most ?? 0) } })}
          >
            Take it over
          </button>
        </p>
      )}
      {load.table.map((x, i) => (
        <div key={i} className={look.fields}>
          <Amount
            label="Measured at level, %"
            most={100}
            value={x.level}
            set={(level) =>
              change({ load: { ...load, table: load.table.map((y, k) => (k === i ? { ...y, level: Math.round(level) } : y)) } })
            }
          />
          <Amount
            label="watts"
            value={x.watts}
            set={(watts) => change({ load: { ...load, table: load.table.map((y, k) => (k === i ? { ...y, watts } : y)) } })}
          />
          <Tool
            icon={Trash2}
            label={`Remove level ${i + 1}`}
            onClick={() => change({ load: { ...load, table: load.table.filter((_, k) => k !== i) } })}
          />
        </div>
      ))}
      {tariff.bands.map((b, i) => {
        const set = (to: Partial<typeof b>) =>
          change({ tariff: { ...tariff, bands: tariff.bands.map((x, k) => (k === i ? { ...x, ...to } : x)) } });
        return (
          <div key={i} className={look.fields}>
            <label className={look.field}>
              <span>Another price from</span>
              <input type="time" value={b.from} onChange={(e) => set({ from: e.target.value })} />
            </label>
            <label className={look.field}>
              <span>to</span>
              <input type="time" value={b.to} onChange={(e) => set({ to: e.target.value })} />
            </label>
            <Amount label={priced("a kWh")} value={b.price} set={(price) => set({ price })} />
            <Tool
              icon={Trash2}
              label={`Remove price ${i + 1}`}
              onClick={() => change({ tariff: { ...tariff, bands: tariff.bands.filter((_, k) => k !== i) } })}
            />
          </div>
        );
      })}
      <div className={look.row}>
        <button
          type="button"
          className={look.button}
          onClick={() =>
            change({
              load: { ...load, table: [...load.table, { level: Math.min(100, (load.table.at(-1)?.level ?? 0) + 25), watts: load.watts }] },
            })
          }
        >
          A measured level
        </button>
        <button
          type="button"
          className={look.button}
          onClick={() => change({ tariff: { ...tariff, bands: [...tariff.bands, { from: "22:00", to: "06:00", price: tariff.price }] } })}
        >
          A price by time of day
        </button>
      </div>
    </section>
  );
}
