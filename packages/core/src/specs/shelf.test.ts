import type { Measurement, ShelfRecord, SpecLimit, SpecVariant } from "@fox-lamp/language";
import { conflictsIn } from "./conflicts";
import { betweenLimits, compareVariants, fitsVehicle, judgeRecords, limitsFor, sameness, splitBy } from "./index";

const LIMIT: SpecLimit = {
  vehicle: {},
  family: "potentiometer-3w",
  meter: "volts-dc",
  red: "ref@sensor",
  black: "bat-",
  setup: { key: "on" },
  low: 4.8,
  high: 5.2,
  unit: "V",
  source: { kind: "document", title: "Workshop book" },
};
const judged = (item: ShelfRecord) => judgeRecords([item])[0];
const AT: Measurement = { circuit: "tps", meter: "volts-dc", red: "ref@sensor", black: "bat-", setup: { key: "on" } };
const VEHICLE = { make: "Veldane", model: "Brisk 4", year: 2014 };
const named = (name: string, over: Partial<SpecLimit> = {}) => ({ name, limit: { ...LIMIT, ...over } });

describe("limits of a measurement", () => {
  it("are those of its vehicle, leads and state; the most specific stands first", () => {
    const all = [
      named("general"),
      named("model", { vehicle: { make: "veldane", model: "Brisk 4" } }),
      named("other model", { vehicle: { model: "Brisk 5" } }),
      named("other years", { vehicle: { years: [2001, 2010] } }),
      named("unplugged", { setup: { key: "on", open: ["sensor"] } }),
      named("ground", { red: "gnd@sensor" }),
      named("own", { source: { kind: "own", title: "measured" } }),
    ];
    expect(limitsFor(all, "potentiometer-3w", VEHICLE, AT).map(({ name }) => name)).toEqual(["model", "own", "general"]);
    expect(limitsFor(all, "pressure-3w", VEHICLE, AT)).toEqual([]);
  });
  it("that are for a temperature want it near", () => {
    const cold = [named("at 20", { family: "thermistor-2w", setup: { key: "on", truth: { temperature: 20 } } })];
    const at = (temperature: number): Measurement => ({ ...AT, setup: { key: "on", truth: { temperature: { value: temperature, within: 1 } } } });
    expect(limitsFor(cold, "thermistor-2w", {}, at(22))).toHaveLength(1);
    expect(limitsFor(cold, "thermistor-2w", {}, at(40))).toEqual([]);
    expect(limitsFor(cold, "thermistor-2w", {}, AT)).toEqual([]);
  });
  it("without a black lead are of the pin against any ground; the key is on unless said", () => {
    const { black: _black, ...open } = LIMIT;
    const any = [{ name: "any ground", limit: open as SpecLimit }];
    expect(limitsFor(any, "potentiometer-3w", {}, { ...AT, black: "gnd@sensor", setup: {} })).toHaveLength(1);
    expect(limitsFor(any, "potentiometer-3w", {}, { ...AT, black: "sig@sensor" })).toEqual([]);
    expect(limitsFor([named("battery")], "potentiometer-3w", {}, { ...AT, black: "gnd@sensor" })).toEqual([]);
    expect(limitsFor(any, "potentiometer-3w", {}, { ...AT, setup: { key: "idle" } })).toEqual([]);
  });
  it("hold at their engine speed, their load and their altitude", () => {
    const rev = (rpm?: number): Measurement => ({ ...AT, setup: { key: "rev", ...(rpm === undefined ? {} : { rpm }) } });
    const at2500 = [named("at 2500", { setup: { key: "rev", rpm: 2500 } })];
    expect([rev(), rev(2400), rev(3500)].map((one) => limitsFor(at2500, "potentiometer-3w", {}, one).length)).toEqual([1, 1, 0]);
    const loads = (["none", "part", "full"] as const).map((load) => named(load, { load }));
    const snap: Measurement = { ...AT, setup: { key: "idle", stimulus: { kind: "snap" } } };
    const snapped = loads.map(({ name, limit }) => ({ name, limit: { ...limit, ...(snap.setup === undefined ? {} : { setup: snap.setup }) } }));
    expect(limitsFor(loads, "potentiometer-3w", {}, AT).map(({ name }) => name)).toEqual(["none"]);
    expect(limitsFor(snapped, "potentiometer-3w", {}, snap).map(({ name }) => name)).toEqual(["full"]);
    const heights = [named("low", { altitude: [0, 600] }), named("high", { altitude: [600, 2000] }), named("anywhere")];
    const used = (metres: number) => limitsFor(heights, "potentiometer-3w", {}, AT, metres).map(({ name }) => name);
    expect([used(0), used(1500), used(3000)]).toEqual([["low", "anywhere"], ["high", "anywhere"], ["anywhere"]]);
  });
  it("of an altitude are judged by the air there, and differ from none of another", () => {
    const map = { family: "pressure-3w", red: "sig@sensor", black: "gnd@sensor" };
    // 101 kPa at the sea makes 4.1 V on the usual line (0.5 V at 20 kPa, 4.5 V at 110), 79.5 kPa at 2000 m 3.15 V.
    const codesOf = (altitude: [number, number], low: number, high: number) =>
      judged({ kind: "limit", record: { ...LIMIT, ...map, altitude, low, high } })?.problems.map(({ code }) => code);
    expect(codesOf([0, 0], 3.8, 4.4)).toEqual([]);
    expect(codesOf([2000, 2000], 2.9, 3.4)).toEqual([]);
    expect(codesOf([2000, 2000], 3.95, 4.3)).toEqual(["against-circuit"]);
    const wide = named("wide", { altitude: [0, 600] });
    expect(conflictsIn([wide, named("narrow", { altitude: [1500, 2500], low: 4.9 })])).toEqual([]);
    expect(conflictsIn([wide, named("narrow", { low: 4.9 })])).toMatchObject([{ used: "wide" }]);
  });
  it("say what passes by one and fails by the other", () => {
    const both = limitsFor(
      [named("wide"), named("narrow", { low: 4950, high: 5050, unit: "mV", vehicle: { make: "Veldane" } })],
      "potentiometer-3w",
      VEHICLE,
      AT,
    );
    expect(both[0]?.name).toBe("narrow");
    expect(splitBy(4.9, both)).toEqual({ passes: ["wide"], fails: ["narrow"] });
    expect(splitBy(5, both)).toBeNull();
    expect(splitBy("OL", both)).toBeNull();
    const [one, other] = both;
    if (one === undefined || other === undefined) throw new Error("two limits");
    expect(betweenLimits(one, other)).toMatch(/passes by wide and fails by narrow$/u);
    expect(betweenLimits(one, one)).toBeNull();
  });
});

describe("a record of the shelf", () => {
  it("fits vehicles it does not exclude, whatever the case of letters", () => {
    expect(fitsVehicle({}, {})).toBe(true);
    expect(fitsVehicle({ make: "VELDANE " }, VEHICLE)).toBe(true);
    expect(fitsVehicle({ years: [2010, 2014] }, VEHICLE)).toBe(true);
    expect(fitsVehicle({ years: [2010, 2014] }, { make: "Veldane" })).toBe(false);
  });
  it("is judged by itself, and refused for a family nobody knows", () => {
    expect(judged({ kind: "limit", record: LIMIT })).toMatchObject({ problems: [] });
    expect(judged({ kind: "limit", record: { ...LIMIT, high: 6.2, low: 5.6 } })?.problems[0]?.code).toBe("above-feed");
    expect(() => judged({ kind: "limit", record: { ...LIMIT, family: "x" } })).toThrow('"x" is no family');
    const curve: ShelfRecord = {
      kind: "curve",
      record: {
        vehicle: {},
        family: "thermistor-2w",
        kind: "temperature-ohms",
        points: [
          [0, 5],
          [20, 2],
        ],
        source: LIMIT.source,
      },
    };
    expect(judged(curve)?.problems[0]?.code).toBe("unit-slip");
  });
  it("is the same as another whoever entered it and when", () => {
    const one = sameness({ kind: "limit", record: LIMIT });
    expect(sameness({ kind: "limit", record: { ...LIMIT, date: "2026-01-01", by: "Wren", confidence: 0.5, id: "a" } })).toBe(one);
    expect(sameness({ kind: "limit", record: { ...LIMIT, high: 5.3 } })).not.toBe(one);
  });
});

describe("look-alikes", () => {
  const of = (part: string, over: Partial<SpecVariant>): SpecVariant => ({ vehicle: {}, family: "solenoid-2w", part, source: LIMIT.source, ...over });
  it("a part in the hand is the one everything agrees with, the others say by what they are out", () => {
    const matches = compareVariants([of("A", { ohms: [30, 34], teeth: 36 }), of("B", { ohms: [12, 16] }), of("C", {})], { ohms: 14, teeth: 60 }, false);
    expect(matches.map(({ part, fits }) => [part, fits])).toEqual([
      ["B", true],
      ["C", null],
      ["A", false],
    ]);
    expect(matches[2]?.differs).toEqual(["14 ohm, not 30 to 34", "60 teeth, not 36"]);
  });
  it("a winding is compared at its own temperature", () => {
    // 14 ohm at 20 degC are 14 (1 + 0.00393 x 60) = 17.3 ohm at 80 degC.
    const hot = { ohms: 17.3, degC: 80 };
    expect(compareVariants([of("A", { ohms: [13.5, 14.5], degC: 20 })], hot, true)[0]?.fits).toBe(true);
    expect(compareVariants([of("A", { ohms: [13.5, 14.5] })], hot, true)[0]?.fits).toBe(false);
    // A thermistor's two temperatures do not compare.
    expect(compareVariants([of("A", { ohms: [2300, 2700], degC: 20 })], { ohms: 320, degC: 80 }, false)[0]?.fits).toBeNull();
  });
  it("a point is held against the line of what it shows", () => {
    const line: SpecVariant["line"] = [
      [20, 0.5],
      [110, 4.5],
    ];
    expect(compareVariants([of("A", { line })], { point: [65, 2.52] }, false)[0]?.fits).toBe(true);
    expect(compareVariants([of("A", { line })], { point: [65, 1.9] }, false)[0]).toMatchObject({ fits: false, differs: ["1.9 at 65, its line makes 2.5"] });
  });
});
