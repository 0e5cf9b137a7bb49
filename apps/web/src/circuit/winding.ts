import { familyById } from "@fox-lamp/core";

/** Families whose part is a copper winding: its resistance rises with its temperature. */
export function isWinding(family: string): boolean {
  const kind = familyById(family)?.traits.kind;
  return kind === "valve" || kind === "wheel";
}
