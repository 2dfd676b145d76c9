/** A list of which one is chosen. */
export const SELECT =
  "min-w-0 flex-1 rounded-md border border-line-strong/60 bg-ground px-2 py-1.5 text-[14px] text-ink";
