import type { Pin, PinRole } from "@fox-lamp/language";

/** Where a pin's wire starts: at the module, at a fuse of the switched supply, or at a ground point. */
export type Origin = "module" | "fuse" | "chassis" | "engine";

export interface PinSpec {
  readonly pin: Pin;
  readonly role: PinRole;
  readonly origin: Origin;
  /** False for a wire that ends before the part (a shield). */
  readonly reachesPart?: boolean;
}

/** A lead on any ground: battery negative, block, body, or a ground or return of a circuit. */
export const ANY_GROUND = /^(?:bat-|engine|chassis|p?gnd\d?@|ret@)/u;
