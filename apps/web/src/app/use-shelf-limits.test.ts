import type { SpecLimit } from "@fox-lamp/language";
import { shelfLimitsOf, shelfSplit } from "./use-shelf-limits";

const LIMIT: SpecLimit = {
  vehicle: {},
  family: "potentiometer-3w",
  meter: "volts-dc",
  red: "ref@sensor",
  setup: { key: "on" },
  low: 4500,
  high: 5500,
  unit: "mV",
  source: { kind: "document", title: "Workshop book", edition: "4" },
};
const narrow = { ...LIMIT, vehicle: { model: "Heron" }, low: 4.95, high: 5.05, unit: "V", source: { kind: "own" as const, title: "Measured" } };
const named = [
  { name: "Workshop book 4", limit: LIMIT },
  { name: "Measured", limit: narrow },
];
const AT = { circuit: "tps", meter: "volts-dc" as const, red: "ref@sensor", black: "bat-", setup: { key: "on" as const } };

it("the shelf's most specific limit is used, in base units, and what it means that another differs is said", () => {
  const said = shelfLimitsOf(named, "potentiometer-3w", { model: "Heron" }, AT);
  expect(said?.used).toEqual({ words: "4.95 to 5.05 V (Measured)", limits: { low: 4.95, high: 5.05, source: "Measured" } });
  expect(said?.others).toEqual(["4.5 to 5.5 V (Workshop book 4)"]);
  expect(said?.consequences[0]).toMatch(/^Measured and Workshop book 4 differ: a reading of .+ V passes by Workshop book 4 and fails by Measured\.$/u);
  expect(shelfLimitsOf(named, "potentiometer-3w", { model: "Heron" }, { ...AT, red: "gnd@sensor" })).toBeNull();
});

it("a reading over which they disagree is told so, with the one that counts", () => {
  expect(shelfSplit(named, "potentiometer-3w", { model: "Heron" }, { ...AT, value: 4.9 })).toBe(
    "It passes by Workshop book 4 and fails by Measured. Measured is the more specific and is used.",
  );
  expect(shelfSplit(named, "potentiometer-3w", { model: "Heron" }, { ...AT, value: 5 })).toBeNull();
  expect(shelfSplit(named, "potentiometer-3w", { model: "Tern" }, { ...AT, value: 4.9 })).toBeNull();
});
