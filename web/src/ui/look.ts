/** What a button has whatever it looks like. */
const press =
  "inline-flex min-h-11 cursor-pointer items-center gap-2 rounded-xs border border-ink text-left font-[550] no-underline disabled:cursor-default disabled:border-dashed disabled:bg-transparent disabled:text-soft";
const usual = `${press} px-3.5 py-1.5`;
const plain = "bg-sheet not-disabled:hover:bg-room";
const dialog = "border border-ink bg-sheet p-4 shadow-[5px_5px_0_var(--rule)]";

/** The parts of the page that many screens have, each in one look, as utilities. */
export const look = {
  button: `${usual} ${plain}`,
  /** The one thing to do next. */
  strong: `${usual} bg-ink text-paper not-disabled:hover:bg-soft`,
  /** A button that stays down until it is pressed again. */
  pressed: `${usual} bg-sheet not-disabled:hover:bg-room aria-pressed:bg-ink aria-pressed:text-paper`,
  /** At the end of a line that it belongs to. */
  small: `${press} ${plain} ml-auto shrink-0 self-start px-2.5 py-1 text-sm`,
  /** A button that is an icon alone. */
  tool: "inline-flex size-11 cursor-pointer items-center justify-center rounded-xs not-disabled:hover:bg-room disabled:cursor-default disabled:opacity-35 print:hidden",
  /** A label over what is typed. */
  field: "flex min-w-36 flex-[1_1_10rem] flex-col gap-0.5 [&>span:first-child]:text-sm [&>span:first-child]:text-soft",
  fields: "my-2 flex flex-wrap items-end gap-3",
  row: "flex flex-wrap gap-2",
  /** One subject of a stage, under a line. */
  chapter: "border-t border-rule py-4 first:border-t-0",
  title: "mt-4 text-[1.35rem]",
  /** What is said where nothing is yet. */
  empty: "my-5 max-w-[46rem] border border-dashed border-soft p-5",
  lead: "mt-1 max-w-[42rem] text-[1.1rem] text-soft",
  /** A page of two columns where there is room. */
  wide: "mx-auto max-w-[84rem] px-6 py-8 max-sm:px-3.5",
  page: "mx-auto max-w-[62rem] px-6 py-8 max-sm:px-3.5",
  /** Something that a person must read before going on. */
  notice: "my-3 flex basis-full gap-3 border-2 border-ink bg-sheet px-4 py-3.5 wrap-anywhere",
  /** What opens over the page beside its button. */
  popover: `z-20 ${dialog}`,
  /** What opens in the middle of the page. */
  dialog: `fixed inset-0 z-20 m-auto h-fit max-h-[90dvh] overflow-y-auto ${dialog}`,
  /** Facts, each after a dash. */
  dashes:
    "[&>li]:relative [&>li]:py-1 [&>li]:pl-[1.1rem] [&>li]:before:absolute [&>li]:before:left-0 [&>li]:before:content-['—'] [&_li_svg]:inline [&_li_svg]:align-[-2px]",
  /** Numbered lines, a name on the left and what is to be said of it on the right. */
  index:
    "index my-6 [counter-reset:index] [&>li]:flex [&>li]:min-h-13 [&>li]:flex-wrap [&>li]:items-baseline [&>li]:gap-x-2.5 [&>li]:pt-2.5 [&>li]:[counter-increment:index] [&>li]:before:min-w-[1.6rem] [&>li]:before:text-soft [&>li]:before:tabular-nums [&>li]:before:content-[counter(index)] [&>li>a]:inline-flex [&>li>a]:min-h-11 [&>li>a]:items-center [&>li>a]:font-serif [&>li>a]:text-[1.15rem] max-sm:[&>li>a]:flex-1",
  leader: "flex-[1_1_2rem] border-b-2 border-dotted border-rule max-sm:hidden",
  aside: "text-soft max-sm:order-3 max-sm:basis-full max-sm:pl-9",
  caution: "mt-3 border border-ink px-3 py-2.5 text-[0.92rem]",
  /** The sides of a stage. */
  gutter: "px-6 max-sm:px-3.5",
  /** A drawing that is scrolled, and whole on paper. */
  sheet:
    "sheet max-h-[62vh] overflow-auto border-t border-rule bg-sheet print:max-h-none print:overflow-visible [&_svg]:block [&_svg]:max-w-none print:[&_svg]:h-auto! print:[&_svg]:w-full!",
  /** A box from the front. */
  front: "front mb-3 overflow-x-auto border border-rule bg-sheet [&_svg]:block [&_svg]:max-w-none",
  /** A stage in one column or two. */
  columns: (bench: boolean, single = bench) =>
    `grid grid-cols-[minmax(0,1fr)] gap-x-8 ${single ? "" : "min-[1000px]:grid-cols-[minmax(0,1.25fr)_minmax(0,1fr)]"} ${bench ? "px-4 py-2" : "px-6 max-sm:px-3.5"}`,
} as const;
