import type { Fault } from "./fault";

/** A fault before its prior is made a share of all. */
export type Draft = Omit<Fault, "prior" | "learnt"> & { readonly weight: number };
