import { useState } from "react";
import { useSettings } from "../../ui/settings";
import { useWork } from "../circuit/work";
import { Fold } from "../../ui/Fold";
import { Choice } from "../../ui/Choice";
import { look } from "../../ui/look";

/** One drawing as a file that stands alone. */
export function AsSvg(props: { query: string; name: string; children: string }) {
  const { circuit } = useWork();
  return (
    <a
      className={look.button}
      href={`/api/v1/circuits/${circuit.id}/diagram?file=true&${props.query}`}
      download={`${circuit.document.name}, ${props.name}.svg`}
    >
      {props.children}
    </a>
  );
}

/** What can be printed or taken away, on either paper. */
export function Papers({ chosen }: { chosen: boolean }) {
  const { circuit, practice } = useWork();
  const [asked, setSize] = useState<string>();
  const size = asked ?? practice?.paper ?? "a4";
  const at = `/api/v1/circuits/${circuit.id}`;
  const { currency } = useSettings();
  const pdf = (sheet: string) => `${at}/paper/${sheet}?size=${size}${currency ? `&currency=${currency}` : ""}`;
  return (
    <div
      className={`flex flex-wrap items-center gap-2 print:hidden ${chosen ? "" : "px-6 py-1.5"}`}
      role="group"
      aria-label="On paper and as files"
    >
      <Choice
        quiet
        label="Paper"
        value={size}
        options={[
          ["a4", "A4"],
          ["letter", "Letter"],
        ]}
        set={setSize}
      />
      {chosen && <Document href={pdf("order")} strong name="Work order, PDF" />}
      {chosen && <Document href={pdf("pocket")} name="For the pocket, PDF" />}
      {chosen ? (
        <Fold title="Other documents">
          <div className={look.row}>
            <Document href={pdf("annex")} name="Annex to the work order, PDF" />
            <Document href={pdf("labels")} name="Labels, PDF" />
            <Document href={pdf("planned")} name="Drawings as planned, PDF" />
            <Document href={pdf("drawings")} name="Drawings as found, PDF" />
            <Document href={pdf("found-labels")} name="Labels as found, PDF" />
            <a className={look.button} href={`${at}/materials`} download="materials.csv">
              Materials, CSV
            </a>
          </div>
        </Fold>
      ) : (
        <>
          <Document href={pdf("drawings")} name="Drawings as found, PDF" />
          <Document href={pdf("found-labels")} name="Labels as found, PDF" />
        </>
      )}
    </div>
  );
}

export function Document(props: { href: string; name: string; strong?: boolean }) {
  return (
    <a className={props.strong ? look.strong : look.button} href={props.href} target="_blank" rel="noreferrer">
      {props.name}
    </a>
  );
}
