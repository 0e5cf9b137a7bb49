import type { Analysis, JobReading } from "@fox-lamp/core";
import type { NextTest, Reading } from "@fox-lamp/language";
import { circuitView } from "../../../test/views";
import { EMPTY_DESK, NO_BOOK } from "./desk";
import { limitsOf, readingOf, typedText } from "./reading-at-hand";
import { circuitsShown, voltsMeasured } from "./shown";

const analysis = { circuits: [circuitView("map", "Manifold"), circuitView("tps", "Throttle")], diagnosis: { verdict: { unit: null } } } as unknown as Analysis;
const test = { test: "t", circuit: "tps", meter: "volts-dc", red: "sig@sensor", black: "bat-", setup: {}, minutes: 1 } as unknown as NextTest;

describe("the circuits of a bench", () => {
  it("are the test's own, unless a suspect, a test of one's own or the strip brings another", () => {
    const ids = ({ ofTest, drawn }: ReturnType<typeof circuitsShown>): unknown[] => [ofTest?.id, drawn?.id];
    expect(ids(circuitsShown(analysis, test, EMPTY_DESK))).toEqual(["tps", "tps"]);
    expect(ids(circuitsShown(analysis, test, { ...EMPTY_DESK, selected: "map/wire:sig" }))).toEqual(["tps", "map"]);
    expect(ids(circuitsShown(analysis, test, { ...EMPTY_DESK, focus: "map" }))).toEqual(["tps", "map"]);
    expect(ids(circuitsShown(analysis, null, EMPTY_DESK))).toEqual(["map", "map"]);
    expect(ids(circuitsShown(null, test, EMPTY_DESK))).toEqual([undefined, undefined]);
  });
  it("show the volts that were read against the battery in the same state, and no others", () => {
    const read = (more: Partial<Reading>): JobReading =>
      ({ reading: { meter: "volts-dc", red: "sig@sensor", black: "bat-", value: 2.5, ...more } as Reading }) as JobReading;
    const volts = (...readings: JobReading[]) => [...voltsMeasured(readings, { open: ["sensor"] }, "tps")];
    expect(volts(read({ setup: { open: ["sensor"] } }))).toEqual([["sig@sensor", 2.5]]);
    expect(volts(read({}), read({ setup: { open: ["sensor"] }, black: "gnd@sensor" }), read({ setup: { open: ["sensor"] }, circuit: "map" }))).toEqual([]);
  });
});

describe("the reading at hand", () => {
  it("is what the test asks for, a recording where lowest and highest were typed, with the unit only where it is another", () => {
    expect(readingOf(test, 4.98, "r3")).toEqual(expect.objectContaining({ id: "r3", circuit: "tps", meter: "volts-dc", red: "sig@sensor", value: 4.98 }));
    expect(readingOf(test, 4.98, "r3")).not.toHaveProperty("record");
    expect(readingOf(test, { min: 0.1, max: 4.9 }, "r3")).toHaveProperty("record", "min-max");
    expect(readingOf(test, 21, "r3", "degC")).toHaveProperty("unit", "degC");
    expect(typedText(0.0123)).toBe("12.3m");
    expect(typedText({ min: 0.7, max: 4.1 })).toBe("700m to 4.1");
  });
  it("carries the limits that were typed with their source, else the shelf's, and none that are no limits", () => {
    const shelf = { used: { limits: { low: 4.9, high: 5.1, source: "book" } } } as unknown as Parameters<typeof limitsOf>[2];
    expect(limitsOf({ text: "4.95 to 5.05", source: " page 7 " }, "V", shelf)).toEqual({ limits: { low: 4.95, high: 5.05, source: "page 7" } });
    expect(limitsOf(NO_BOOK, "V", shelf)).toEqual({ limits: { low: 4.9, high: 5.1, source: "book" } });
    expect(limitsOf({ ...NO_BOOK, withoutShelf: true }, "V", shelf)).toEqual({});
    expect(limitsOf({ text: "some", source: "" }, "V", null)).toEqual({});
  });
});
