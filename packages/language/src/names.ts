/** Lists of names that files and screens share; without the schemas, so that a page can have them without a validator. */

/** Instruments and aids that may be at hand. */
export const INSTRUMENTS = ["meter", "lamp", "jumper", "resistor", "scan", "scope", "clamp", "pierce", "helper"] as const;
export type Instrument = (typeof INSTRUMENTS)[number];

/** The stages a job passes, in the order of work. */
export const STAGES = ["complaint", "codes", "triage", "bench", "repair", "check", "closed"] as const;
export type Stage = (typeof STAGES)[number];

export const KEY_STATES = ["off", "on", "crank", "idle", "rev"] as const;
export type KeyState = (typeof KEY_STATES)[number];

/** What people of a shop may do. */
export const ROLES = ["technician", "foreman", "trainee"] as const;
export type Role = (typeof ROLES)[number];

/** How a job ends. */
export const OUTCOMES = ["repaired", "elsewhere", "not-reproduced", "refused", "undecided"] as const;
export type Outcome = (typeof OUTCOMES)[number];

/** Paper a report is printed on. */
export const PAPERS = ["A4", "Letter"] as const;
export type Paper = (typeof PAPERS)[number];

/** Languages a report's dates are written in, as BCP 47 names them. */
export const DATE_LANGUAGES = ["en-GB", "en-US", "de", "fr", "es", "it", "nl", "pl", "cs", "sv", "el", "uk", "ru"] as const;
export type DateLanguage = (typeof DATE_LANGUAGES)[number];

/** What a job waits for. */
export const WAITS = ["part", "customer"] as const;
export type Wait = (typeof WAITS)[number];
