import type { Reading } from "@fox-lamp/language";
import { diagnoseJob } from "..";
import { alike, testOf, workDoneOf } from "./work-done";

const scan = (value: Reading["value"], unit?: string): Reading => ({
  circuit: "ect",
  meter: "scan",
  red: "sig@module",
  value,
  ...(unit === undefined ? {} : { unit }),
});
const ohms = (value: number): Reading => ({
  circuit: "ect",
  meter: "ohms",
  red: "sig@part",
  black: "gnd@part",
  setup: { key: "off", open: ["sensor"], stimulus: { kind: "heat" } },
  value,
});

describe("two readings of one test", () => {
  it("are not the same where a cold sensor's level went to the reference, though both are high", () => {
    expect(alike(scan(3.87), scan(5))).toBe(false);
    expect(alike(scan(3.87), scan(3.93))).toBe(true);
    expect(alike(scan(0.02), scan(0.12))).toBe(true);
  });
  it("may differ by more where the quantity itself wanders", () => {
    expect(alike(scan(190, "rpm"), scan(225, "rpm"))).toBe(true);
    expect(alike(ohms(900), ohms(1050))).toBe(true);
    expect(alike(ohms(900), ohms(46_000))).toBe(false);
    expect(alike(scan({ min: 0.1, max: 4.9 }), scan({ min: 0.15, max: 4.85 }))).toBe(true);
    expect(alike(scan({ min: 0.1, max: 4.9 }), scan({ min: 2.1, max: 4.9 }))).toBe(false);
  });
  it("mark a test that did not show the same each time", () => {
    const named = [ohms(46_000), ohms(900)].map((reading, index) => ({ id: `r${index + 1}`, where: `readings[${index}]`, reading }));
    const { differing, done } = workDoneOf(named, "ect", { circuits: [{ id: "ect", family: "thermistor-2w" }] }, new Set(), false, {});
    expect(differing.size).toBe(1);
    expect([...done.values()]).toEqual([2]);
  });
});

describe("a test", () => {
  const known = { ect: { temperature: 20 } };
  const volts: Reading = { circuit: "ect", meter: "volts-dc", red: "sig@sensor", black: "bat-", setup: { key: "on" }, value: 2.5 };
  const stated = (temperature: number | { value: number; within: number }): Reading => ({ ...volts, setup: { key: "on", truth: { temperature } } });
  it("is the same whether what is known for the whole job was said with it or not, and how sure it is", () => {
    const same = testOf(volts, "", known);
    for (const other of [stated(20), stated({ value: 20, within: 3 }), { ...volts, red: "ect:sig@sensor" }, { ...volts, setup: {} }])
      expect(testOf(other, "", known)).toBe(same);
    expect(testOf({ ...volts, circuit: undefined }, "ect", known)).toBe(same);
  });
  it("is another one at another temperature, with other leads, and recorded", () => {
    const same = testOf(volts, "", known);
    for (const other of [stated(80), { ...volts, red: "sig@module" }, { ...volts, record: "min-max" as const }, { ...volts, setup: { key: "idle" as const } }])
      expect(testOf(other, "", known)).not.toBe(same);
    // A lowest and a highest are a recording, said or unsaid.
    const ends = { min: 2.4, max: 2.6 };
    expect(testOf({ ...volts, value: ends }, "", known)).toBe(testOf({ ...volts, record: "min-max", value: ends }, "", known));
  });
  it("is not proposed again where the temperature is known for the job and was not said with the reading", () => {
    const scanned: Reading = { circuit: "ect", meter: "scan", red: "sig@module", setup: { key: "on" }, value: 4.2 };
    const { next } = diagnoseJob({ circuits: [{ id: "ect", family: "thermistor-2w" }], readings: [scanned], conditions: { temperature: 20 } });
    expect(next.length).toBeGreaterThan(3);
    for (const { meter, setup } of next) expect([meter, JSON.stringify(setup)]).not.toEqual(["scan", JSON.stringify({ truth: { temperature: 20 } })]);
  });
  it("is not done again by a second look at what was looked at, whatever was open", () => {
    const look: Reading = { circuit: "ect", meter: "look", red: "sensor", setup: { key: "off" }, value: "ok" };
    const { next } = diagnoseJob({ circuits: [{ id: "ect", family: "thermistor-2w" }], readings: [{ ...volts, value: 4.9 }, look] });
    expect(next.some(({ meter, red }) => meter === "look" && red === "sensor")).toBe(false);
  });
});

describe("unplugging", () => {
  it("makes what the module saw worth seeing again, but no move of a plug that was made before", () => {
    const moved: Reading = { ...scan(2.6), setup: { stimulus: { kind: "wiggle", at: "sensor" } } };
    const unplugged: Reading = { circuit: "ect", meter: "look", red: "sensor", setup: { key: "off", open: ["sensor"] }, value: "ok" };
    const named = [scan(2.6), moved, unplugged].map((reading, index) => ({ id: `r${index + 1}`, where: `readings[${index}]`, reading }));
    const { done } = workDoneOf(named, "ect", { circuits: [{ id: "ect", family: "thermistor-2w" }] }, new Set(), false, {});
    expect([...done.keys()].filter((id) => id.includes("scan"))).toEqual([expect.stringContaining("wiggle:sensor")]);
  });
});

describe("what showed once and not again", () => {
  const curve = [
    [-20, 18_900],
    [0, 6700],
    [20, 2700],
    [40, 1210],
    [80, 313],
    [120, 106],
  ];
  const job = {
    circuits: [{ id: "ect", family: "thermistor-2w", with: { vref: 5, pullup: 2200, curve } }],
    readings: [
      { ...scan(2.58), id: "r1", setup: { truth: { temperature: 22 } } },
      { id: "r2", circuit: "ect", meter: "volts-dc", red: "bat+", black: "bat-", setup: { key: "crank" }, value: 10.4 },
      { ...ohms(46_400), id: "r3" },
      { ...ohms(900), id: "r4" },
      { ...scan(2.6), id: "r5", setup: { truth: { temperature: 22 }, stimulus: { kind: "wiggle", at: "sensor" } } },
    ],
  } as unknown as Parameters<typeof diagnoseJob>[0];
  it("is tried again, and nobody says that nothing was found", () => {
    const { verdict, next } = diagnoseJob(job);
    expect(verdict.status).toBe("narrowing");
    expect(verdict.unit).toBe("ect/sensor");
    expect(next.some(({ meter, setup }) => meter === "ohms" && setup?.stimulus?.kind === "heat")).toBe(true);
  });
});

describe("a connector that was just moved", () => {
  const told = (value: number, setup: object = {}): Reading => ({ circuit: "ks", meter: "scan", red: "sig@module", unit: "taps", setup, value }) as never;
  it("may be moved again at once, though nothing else just done is done again", () => {
    const idle = { key: "idle" };
    const readings = [told(1, idle), told(0, { ...idle, stimulus: { kind: "wiggle", at: "sensor" } })];
    const { next } = diagnoseJob({ circuits: [{ id: "ks", family: "knock-1w" }], readings });
    expect(next.some(({ setup }) => setup.stimulus?.kind === "wiggle" && setup.stimulus.at === "sensor")).toBe(true);
    const still = diagnoseJob({ circuits: [{ id: "ks", family: "knock-1w" }], readings: [told(1, idle)] });
    expect(still.next.some(({ meter, setup }) => meter === "scan" && setup.key === "idle" && setup.stimulus === undefined)).toBe(false);
  });
});
