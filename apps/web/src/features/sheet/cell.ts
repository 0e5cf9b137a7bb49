/** How a field in a table of the sheet looks. */
export const CELL = "min-h-11 w-full rounded-lg border border-edge bg-well px-3 text-ink";
