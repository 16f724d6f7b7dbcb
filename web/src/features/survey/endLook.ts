/** How a core's or screw's end looks in the list of its box: picked, pointed at, dragged or dragged onto. */
const usual =
  "end flex min-h-16 cursor-pointer flex-col border bg-sheet px-2 py-1 text-left text-[0.9rem] wrap-anywhere " +
  "focus-visible:outline-3 focus-visible:outline-offset-2 focus-visible:outline-dashed " +
  "data-[state=on]:inset-shadow-[0_0_0_2px_var(--sheet)] data-[state=on]:outline-3 data-[state=on]:-outline-offset-1 data-[state=on]:outline-ink " +
  "data-[state=on]:[&_.core]:after:ml-auto data-[state=on]:[&_.core]:after:font-bold data-[state=on]:[&_.core]:after:content-['✓'] " +
  "[&.drop-here]:outline-4 [&.drop-here]:outline-offset-1 [&.drop-here]:outline-ink [&.drop-here]:outline-double [&.dragged]:opacity-60 " +
  "[&_.core]:cursor-grab [&_.core]:touch-none"; // a finger on the insulation drags; elsewhere it scrolls

export const endLook = (end: string, pointed: string[], more = "") =>
  `${usual} ${more} ${pointed.includes(end) ? "pointed border-[3px] border-double border-ink" : "border-soft"}`;
