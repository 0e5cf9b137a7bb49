/** The names of a table of this language, in its order; at least one. */
export function keysOf<T extends object>(table: T): [keyof T & string, ...(keyof T & string)[]] {
  return Object.keys(table) as [keyof T & string, ...(keyof T & string)[]];
}
