import type { Circuit } from "@fox-lamp/language";
import { buildModel } from "./model";

/** Circuits whose sheets say everything: what they leave out is filled in with what is usual for their families, as this car's own values. */
export function completeSheets(circuits: readonly Circuit[]): Circuit[] {
  return buildModel(circuits).circuits.map(({ circuit, parameters }) => {
    const stated = Object.entries(parameters as Record<string, unknown>).filter(([, value]) => value !== undefined);
    return { ...circuit, with: { ...Object.fromEntries(stated), ...circuit.with } };
  });
}
