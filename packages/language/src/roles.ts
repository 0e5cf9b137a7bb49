import { keysOf } from "./keys";
/** What a pin is for: decides how it is tested and what must never be done to it. */
export const PIN_ROLES = {
  reference: { ground: false, supply: true, shared: "ref", touched: true },
  feed: { ground: false, supply: true, shared: "ref", touched: true },
  signal: { ground: false, supply: false, shared: null, touched: true },
  ground: { ground: true, supply: false, shared: "gnd", touched: true },
  "power-ground": { ground: true, supply: false, shared: null, touched: true },
  return: { ground: true, supply: false, shared: "gnd", touched: true },
  control: { ground: false, supply: false, shared: null, touched: false },
  shield: { ground: false, supply: false, shared: null, touched: false },
  "heater-feed": { ground: false, supply: true, shared: null, touched: false },
  "heater-control": { ground: false, supply: false, shared: null, touched: false },
} as const satisfies Record<
  string,
  {
    /** Leads the current back. */
    readonly ground: boolean;
    /** Brings the current. */
    readonly supply: boolean;
    /** The pin of a shared reference it can join, where it starts at the module. */
    readonly shared: "ref" | "gnd" | null;
    /** A lead must have been on it before anything in its circuit is condemned. */
    readonly touched: boolean;
  }
>;

export type PinRole = keyof typeof PIN_ROLES;

/** The roles that lead current back. */
export const GROUND_ROLES = keysOf(PIN_ROLES).filter((role) => PIN_ROLES[role].ground);
/** The roles that bring current. */
export const SUPPLY_ROLES = keysOf(PIN_ROLES).filter((role) => PIN_ROLES[role].supply);

/** Whether a pin leads current back. */
export function isGroundRole(role: PinRole): boolean {
  return PIN_ROLES[role].ground;
}
