import { useMutation } from "@tanstack/react-query";
import { TriangleAlert } from "lucide-react";
import { useEffect, useState } from "react";
import { client, take, type Schemas } from "../../api/client";
import { Notice } from "../../ui/Notice";
import { useKeys } from "../../ui/useKeys";
import { useWork } from "../circuit/work";

type Next = Schemas["NextTest"];

/** One test: what must be confirmed before, what to do, and big answers. */
export function TestCard(props: { next: Next; of: number; waiting?: boolean; heading?: string }) {
  const { next } = props;
  const { circuit, change, busy, word } = useWork();
  const [volts, setVolts] = useState("");
  const gates = next.gates;
  const arriving = useArriving();
  const locked = gates.length > 0 || busy || props.waiting || arriving;
  const measuresVolts = next.test.instrument === "two-pole" || next.test.instrument === "multimeter";
  const read = (reading: string | number) => {
    if (!locked) change({ do: "edit", edit: { op: "observe", observation: { ...next.test, reading } } });
  };
  const ask = useMutation({
    mutationFn: () => take(client.POST("/circuits/{circuit}/ask", { params: { path: { circuit: circuit.id } }, body: next.test })),
    onSuccess: (answer) => read(answer.reading),
  });
  const [yes, no] = next.outcomes;
  const keyed = !locked && props.heading === undefined; // of several tests on a page, keys answer the one proposed
  useKeys({
    y: yes && keyed ? () => read(yes.reading) : undefined,
    n: no && keyed ? () => read(no.reading) : undefined,
    u: keyed ? () => read("unclear") : undefined,
    h: circuit.house && keyed ? () => ask.mutate() : undefined,
  });
  return (
    <section className="test-card" aria-label={props.heading ?? "The next test"} data-arriving={arriving || undefined}>
      <p className="test-kind">
        {props.heading ?? (next.confirms ? "Confirming reading" : "Next test")} · {next.live ? "live" : "dead"}
      </p>
      {next.live && (
        <p className="live-warning">
          <TriangleAlert aria-hidden size={20} className="shrink-0" />
          <span>
            Parts are live for this test: the {word("breaker")} is on. {next.instead}
          </span>
        </p>
      )}
      {gates.length > 0 && <Gates gates={gates} />}
      {next.prepare.length > 0 && (
        <ol className="prepare" aria-label="Before the reading">
          {next.prepare.map((step) => (
            <li key={step}>{step}</li>
          ))}
        </ol>
      )}
      <p className="measure">{next.measure}</p>
      <div className="answers" role="group" aria-label="What it showed">
        {next.outcomes.map((o, i) => (
          <button key={String(o.reading)} type="button" className="answer" disabled={locked} onClick={() => read(o.reading)}>
            <span>
              {props.heading === undefined && <kbd aria-hidden>{"YN"[i]}</kbd>} {o.words}
            </span>
            <span className="quiet">
              {o.worlds === 0 ? "cannot be, by the record" : o.done ? "then all is certain" : `leaves ${o.worlds} of ${props.of}`}
            </span>
          </button>
        ))}
        <button type="button" className="answer unclear" disabled={locked} onClick={() => read("unclear")}>
          <span>{props.heading === undefined && <kbd aria-hidden>U</kbd>} cannot tell</span>
          <span className="quiet">another test instead</span>
        </button>
      </div>
      {measuresVolts && (
        <form
          className="line-form volts"
          onSubmit={(e) => {
            e.preventDefault();
            const value = Number(volts.replace(",", "."));
            if (volts.trim() !== "" && Number.isFinite(value) && value >= 0) read(value);
          }}
        >
          <label className="field">
            <span>Other volts read</span>
            <input inputMode="decimal" value={volts} onChange={(e) => setVolts(e.target.value)} />
          </label>
          <button type="submit" className="button" disabled={locked}>
            Enter volts
          </button>
        </form>
      )}
      {circuit.house && (
        <button type="button" className="button wide" disabled={locked || ask.isPending} onClick={() => ask.mutate()}>
          <kbd aria-hidden>H</kbd> Ask the hidden house
        </button>
      )}
      <Notice error={ask.error} />
      <p className="quiet">{next.why}</p>
      {next.confirms && (
        <button
          type="button"
          className="button small"
          disabled={busy}
          onClick={() => change({ do: "edit", edit: { op: "set-circuit", confirm: "never" } })}
        >
          Do not confirm
        </button>
      )}
    </section>
  );
}

/** True while a card has just come: nobody has read it yet, so what is pressed was meant for the one before. */
function useArriving() {
  const [arriving, setArriving] = useState(true);
  useEffect(() => {
    const read = setTimeout(() => setArriving(false), 400);
    return () => clearTimeout(read);
  }, []);
  return arriving;
}

/** What a person confirms before a test; until then the answers are locked. */
function Gates({ gates }: { gates: Next["gates"] }) {
  const { change, busy } = useWork();
  const [live, setLive] = useState("");
  const conductors = gates.flatMap((g) => g.conductors ?? []);
  const all = gates.flatMap((g) => g.confirm.map((c) => `${g.gate} ${g.box ?? ""} ${c}`));
  const [ticked, setTicked] = useState<string[]>([]);
  return (
    <div className="gates">
      {gates.map((g) => (
        <fieldset key={g.gate + (g.box ?? "")}>
          <legend>{g.text}</legend>
          {g.confirm.map((c) => {
            const key = `${g.gate} ${g.box ?? ""} ${c}`;
            return (
              <label key={c} className="check">
                <input
                  type="checkbox"
                  checked={ticked.includes(key)}
                  onChange={() => setTicked((now) => (now.includes(key) ? now.filter((x) => x !== key) : [...now, key]))}
                />
                {c}
              </label>
            );
          })}
        </fieldset>
      ))}
      <button
        type="button"
        className="button strong wide"
        disabled={busy || all.some((key) => !ticked.includes(key))}
        onClick={() => change({ do: "edit", edit: { op: "gate", gates: gates.map((g) => ({ gate: g.gate, box: g.box })) } })}
      >
        Confirm and go on
      </button>
      {conductors.length > 0 && (
        <div className="row mt-3">
          <label className="field">
            <span>One is live with the power off</span>
            <select value={live} onChange={(e) => setLive(e.target.value)}>
              <option value="">choose which …</option>
              {conductors.map((c) => (
                <option key={c} value={c}>
                  {c}
                </option>
              ))}
            </select>
          </label>
          <button
            type="button"
            className="button"
            disabled={busy || live === ""}
            onClick={() =>
              change({
                do: "edit",
                edit: { op: "observe", observation: { power: "off", instrument: "non-contact", at: [live], reading: "live" } },
              })
            }
          >
            One is live
          </button>
        </div>
      )}
    </div>
  );
}
