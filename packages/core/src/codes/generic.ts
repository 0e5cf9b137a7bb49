import { SUBJECTS, type SubjectKey } from "./subjects";

/** What a code says happened. */
export type CodeKind =
  | "circuit"
  | "low"
  | "high"
  | "performance"
  | "intermittent"
  | "no-activity"
  | "slow"
  | "correlation"
  | "heater"
  | "heater-low"
  | "heater-high"
  | "consequence";

/** A generic code: whose circuit it speaks of and what it says. */
export interface GenericCode {
  readonly code: string;
  readonly subject: SubjectKey;
  readonly kind: CodeKind;
  readonly title: string;
  /** Which one of several alike it speaks of: bank, and the sensor on it; null where it does not say. */
  readonly bank: number | null;
  readonly sensor: number | null;
  /** Subjects whose loss can set this one though its own circuit is sound. */
  readonly follows: readonly SubjectKey[];
}

const KIND_WORDS: Readonly<Record<CodeKind, string>> = {
  circuit: "circuit fault",
  low: "circuit low",
  high: "circuit high",
  performance: "range or performance",
  intermittent: "intermittent",
  "no-activity": "no activity",
  slow: "slow response",
  correlation: "signals disagree",
  heater: "heater circuit",
  "heater-low": "heater control low",
  "heater-high": "heater control high",
  consequence: "out of its limits",
};

type Row = readonly [first: number, subject: SubjectKey, kinds: readonly (CodeKind | null)[], ...where: string[]];

const FIVE = ["circuit", "performance", "low", "high", "intermittent"] as const;
const FOUR = ["circuit", "performance", "low", "high"] as const;
const CELL = ["circuit", "low", "high", "slow", "no-activity", "heater"] as const;

/** Runs of the public standard's powertrain codes for the families this version knows: first number, subject, kinds in order. */
const ROWS: readonly Row[] = [
  [10, "phaser", ["circuit"], "intake, bank 1"],
  [13, "phaser", ["circuit"], "exhaust, bank 1"],
  [20, "phaser", ["circuit"], "intake, bank 2"],
  [23, "phaser", ["circuit"], "exhaust, bank 2"],
  [30, "oxygen", ["heater", "heater-low", "heater-high"], "bank 1 sensor 1"],
  [36, "oxygen", ["heater", "heater-low", "heater-high"], "bank 1 sensor 2"],
  [50, "oxygen", ["heater", "heater-low", "heater-high"], "bank 2 sensor 1"],
  [56, "oxygen", ["heater", "heater-low", "heater-high"], "bank 2 sensor 2"],
  [100, "air-flow", FIVE],
  [105, "manifold", FIVE],
  [110, "intake-air", FIVE],
  [115, "coolant", FIVE],
  [120, "throttle", FIVE, "track A"],
  [130, "oxygen", CELL, "bank 1 sensor 1"],
  [136, "oxygen", CELL, "bank 1 sensor 2"],
  [150, "oxygen", CELL, "bank 2 sensor 1"],
  [156, "oxygen", CELL, "bank 2 sensor 2"],
  [190, "rail", FIVE],
  [195, "oil-temperature", FIVE],
  [220, "throttle", FIVE, "track B"],
  [325, "knock", FIVE, "sensor 1"],
  [330, "knock", FIVE, "sensor 2"],
  [335, "crank", FIVE],
  [340, "cam", FIVE, "bank 1"],
  [345, "cam", FIVE, "bank 2"],
  [365, "cam", FIVE, "second cam, bank 1"],
  [404, "egr", ["performance", "low", "high"]],
  [443, "purge", ["circuit", "low", "high"]],
  [450, "tank", FIVE],
  [500, "speed", ["circuit", "performance", "low", "high"]],
  [511, "idle", ["circuit"]],
  [520, "oil-pressure", FOUR],
  [530, "refrigerant", FOUR],
  [560, "supply", ["circuit", null, "low", "high"]],
  [641, "reference", ["circuit", "low", "high"], "A"],
  [651, "reference", ["circuit", "low", "high"], "B"],
  [697, "reference", ["circuit", "low", "high"], "C"],
  [2008, "runner", ["circuit", "low", "high"], "bank 1"],
  [2011, "runner", ["circuit", "low", "high"], "bank 2"],
  [2120, "pedal", FIVE, "track D"],
  [2125, "pedal", FIVE, "track E"],
  [2135, "throttle", ["correlation"], "tracks A and B"],
  [2138, "pedal", ["correlation"], "tracks D and E"],
];

/** Codes about what the engine does, which a lost signal can set though nothing else is wrong. */
const FOLLOWERS: readonly (readonly [first: number, last: number, subject: SubjectKey, follows: readonly SubjectKey[]])[] = [
  [11, 12, "timing", ["cam", "crank", "phaser", "oil-temperature"]],
  [14, 15, "timing", ["cam", "crank", "phaser"]],
  [16, 19, "timing", ["cam", "crank"]],
  [21, 22, "timing", ["cam", "crank", "phaser"]],
  [171, 172, "mixture", ["air-flow", "oxygen", "manifold", "rail", "coolant", "purge"]],
  [174, 175, "mixture", ["air-flow", "oxygen", "manifold", "rail", "coolant", "purge"]],
  [300, 312, "misfire", ["crank", "cam", "air-flow", "rail"]],
  [420, 420, "catalyst", ["oxygen", "misfire"]],
  [430, 430, "catalyst", ["oxygen", "misfire"]],
];

function named(number: number): string {
  return `P${String(number).padStart(4, "0")}`;
}

function numberAfter(word: string, where: readonly string[]): number | null {
  const found = new RegExp(`${word} (\\d)`, "u").exec(where.join(" "));
  return found === null ? null : Number(found[1]);
}

function build(): Map<string, GenericCode> {
  const table = new Map<string, GenericCode>();
  for (const [first, subject, kinds, ...where] of ROWS) {
    kinds.forEach((kind, index) => {
      if (kind === null) return;
      const code = named(first + index);
      const place = where.length === 0 ? "" : ` (${where.join(", ")})`;
      table.set(code, {
        code,
        subject,
        kind,
        title: `${SUBJECTS[subject].title}${place}: ${KIND_WORDS[kind]}`,
        bank: numberAfter("bank", where),
        sensor: numberAfter("sensor", where),
        follows: [],
      });
    });
  }
  for (const [first, last, subject, follows] of FOLLOWERS) {
    for (let number = first; number <= last; number += 1) {
      const code = named(number);
      table.set(code, {
        code,
        subject,
        kind: "consequence",
        title: `${SUBJECTS[subject].title}: ${KIND_WORDS.consequence}`,
        bank: null,
        sensor: null,
        follows,
      });
    }
  }
  return table;
}

const TABLE = build();

/**
 * A code of the public standard's generic powertrain table, for the families this version covers; null for any other, which is
 * kept and said to be unknown. Case and spaces do not matter.
 */
export function genericCode(code: string): GenericCode | null {
  return TABLE.get(code.trim().toUpperCase()) ?? null;
}

/** Every generic code this version knows. */
export function genericCodes(): readonly GenericCode[] {
  return [...TABLE.values()];
}
