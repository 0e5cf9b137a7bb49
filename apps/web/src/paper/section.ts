/** A block of a report: a heading with lines, with rows of a table, or with pictures. */
export interface Section {
  readonly title: string;
  readonly lines: readonly string[];
  readonly columns?: readonly string[];
  readonly rows?: readonly (readonly string[])[];
  readonly pictures?: readonly { readonly source: string; readonly caption: string }[];
}

/** Whether there is anything in a block. */
export function isSaid({ lines, rows = [], pictures = [] }: Section): boolean {
  return lines.length + rows.length + pictures.length > 0;
}
