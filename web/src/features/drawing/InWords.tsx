import { Popover } from "radix-ui";
import type { Schemas } from "../../api/client";
import { coreText } from "../circuit/Core";
import { useWork } from "../circuit/work";
import { look } from "../../ui/look";

type PictureData = Schemas["Picture"];

/** Through which cables and to which screws a conductor goes, in the practice's words. */
export function conductorText(picture: PictureData, conductor: number, names: Schemas["Names"]) {
  const marks = picture.marks.flatMap((m) => (m.kind === "group" ? [m, ...m.marks] : [m]));
  const ends = marks.flatMap((m) => ("of" in m && m.of?.conductor === conductor && m.of.end ? [m.of.end] : []));
  const said = new Set(
    ends.map((end) => {
      const [ref = ""] = end.split("@");
      const [owner = "", part = ""] = ref.split(".");
      return end.includes("@") ? `${coreText(part)} of ${names.cables[owner]}` : (names.ends[ref] ?? "");
    }),
  );
  return [...said].join(", ");
}

/** What is live now, in words: the drawing for who does not see it. */
export function InWords(props: { picture: PictureData | undefined; live: Schemas["Live"] | undefined; names: Schemas["Names"] }) {
  const { picture, live, names } = props;
  const { word } = useWork();
  const states: [string, string][] = [
    ["live", "Live"],
    ["live-through-lamp", "Live through a lamp"],
    ["neutral", `Joined to the ${word("neutral")}`],
    ["ground", `Joined to the ${word("ground")}`],
    ["floating", "Floating"],
    ["dead", `Dead: the ${word("breaker")} has tripped`],
  ];
  return (
    <Popover.Root>
      <Popover.Trigger className={look.button} disabled={!picture || !live}>
        In words
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          className={`${look.popover} max-h-(--radix-popover-content-available-height) w-96 max-w-[94vw] overflow-y-auto`}
          sideOffset={6}
          aria-label="What is live, in words"
        >
          {states.map(([state, name]) => {
            if (!picture || !live) return false;
            const of = live.conductors.flatMap((is, i) => (is === state ? [conductorText(picture, i, names)] : [])).filter(Boolean);
            return (
              of.length > 0 && (
                <section key={state} aria-label={name}>
                  <h3>{name}</h3>
                  <ul className="list-disc pl-5">
                    {of.map((text) => (
                      <li key={text}>{text}</li>
                    ))}
                  </ul>
                </section>
              )
            );
          })}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
