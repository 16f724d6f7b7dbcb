import type { Schemas } from "../../api/client";
import { look } from "../../ui/look";
import { Picture } from "./Picture";

/** Drawings of one box beside each other, or one below the other, with the same ends marked in each. */
export function TwoBoxes(props: { of: [string, Schemas["Picture"] | undefined][]; where: string; at: string[] }) {
  return props.of.map(([title, picture]) => (
    <figure key={title} className="min-w-0">
      <figcaption className="font-serif font-semibold">{title}</figcaption>
      <div className={look.front} role="region" aria-label={`${props.where}: ${title}`} tabIndex={0}>
        {picture ? <Picture picture={picture} seen={{ pointed: props.at }} acts={{}} /> : <div className="h-80" />}
      </div>
    </figure>
  ));
}
