import type { Pin } from "@fox-lamp/language";

/** What a pin is for: decides how it is tested and what must never be done to it. */
export type Role = "reference" | "feed" | "signal" | "ground" | "power-ground" | "return" | "control" | "shield" | "heater-feed" | "heater-control";

/** Where a pin's wire starts: at the module, at a fuse of the switched supply, or at a ground point. */
export type Origin = "module" | "fuse" | "chassis" | "engine";

export interface PinSpec {
  readonly pin: Pin;
  readonly role: Role;
  readonly origin: Origin;
  /** False for a wire that ends before the part (a shield). */
  readonly reachesPart?: boolean;
}
