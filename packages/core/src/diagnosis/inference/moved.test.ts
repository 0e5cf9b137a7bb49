import type { Circuit, Reading } from "@fox-lamp/language";
import { buildModel } from "../../circuit";
import { simulateReading } from "../../instruments";
import { expectHealthy } from "../../procedures";
import { diagnoseJob } from "../index";

const job = (family: string, stimulus: string, value: Reading["value"], more: Partial<Reading> = {}) => {
  const reading: Reading = {
    circuit: "x",
    meter: "volts-dc",
    red: "sig@sensor",
    black: "bat-",
    record: "min-max",
    setup: { key: "on", stimulus: { kind: stimulus as "steel" } },
    value,
    ...more,
  };
  const circuits: Circuit[] = [{ id: "x", family }];
  return { circuits, readings: [reading] };
};
const healthyBefore = (family: string): number => diagnoseJob({ circuits: [{ id: "x", family }] }).healthy ?? 0;

describe("a recording while what is sensed is moved", () => {
  // Lowest and highest as they are met: steel passed, a pump pulled, a throttle opened, a sensor warmed in the hand.
  it.each([
    ["hall-3w", "steel", { min: 0.1, max: 4.98 }],
    ["switch", "sweep", { min: 0.05, max: 4.98 }],
    ["pressure-3w", "vacuum", { min: 1.3, max: 4.2 }],
    ["pressure-3w", "snap", { min: 1.3, max: 4.2 }],
    ["maf-voltage", "snap", { min: 1, max: 3.9 }],
    ["potentiometer-3w", "sweep", { min: 0.5, max: 4.5 }],
    ["thermistor-2w", "heat", { min: 1.8, max: 2.5 }],
  ])("does not accuse a sound %s under %s, whatever swing it shows", (family, stimulus, value) => {
    const { healthy = 0, doubtful } = diagnoseJob(job(family, stimulus, value));
    expect(doubtful).toEqual([]);
    expect(healthy).toBeGreaterThan(0.8 * healthyBefore(family));
  });
  it("accuses a worn track by a dip, and by a jump to the reference where the line is held up; a sweep cut short accuses nobody", () => {
    const swept = (value: Reading["value"], given: Circuit["with"] = {}) => {
      const [reading] = job("potentiometer-3w", "sweep", value).readings as [Reading];
      const stops = [0, 100].map(
        (position): Reading => ({ circuit: "x", meter: "scan", red: "sig@module", setup: { truth: { position } }, value: position === 0 ? 0.56 : 4.2 }),
      );
      const readings = [...stops, reading, { ...reading }];
      return diagnoseJob({ circuits: [{ id: "x", family: "potentiometer-3w", with: { percentOf: "opening", ...given } }], readings });
    };
    expect(swept({ min: 0.02, max: 4.2 }).verdict.unit).toBe("x/sensor");
    expect(swept({ min: 0.55, max: 4.98 }, { pullup: 220_000 }).verdict.unit).toBe("x/sensor");
    expect(swept({ min: 0.55, max: 2.9 }, { pullup: 220_000 }).verdict.unit).toBeNull();
  });
  it("takes an ohmmeter on a track that is swept as one that stands anywhere: its highest accuses a worn spot alone", () => {
    const ohms = (value: Reading["value"]) =>
      diagnoseJob(
        job("potentiometer-3w", "sweep", value, {
          meter: "ohms",
          red: "sig@part",
          black: "gnd@part",
          setup: { key: "off", open: ["sensor"], stimulus: { kind: "sweep" } },
        }),
      );
    for (const sound of [{ min: 780, max: 4400 }, 4400, 780]) {
      expect(ohms(sound).doubtful).toEqual([]);
      expect(ohms(sound).units[0]?.probability).toBeLessThan(0.4);
    }
    expect(ohms({ min: 780, max: 64_000 }).units[0]).toMatchObject({ unit: "x/sensor" });
    expect(ohms({ min: 780, max: 64_000 }).units[0]?.probability).toBeGreaterThan(0.8);
  });
  it("accuses an output that stands while steel passes", () => {
    const { healthy = 1, units } = diagnoseJob(job("hall-3w", "steel", { min: 0.1, max: 0.12 }));
    expect(healthy).toBeLessThan(0.05);
    expect(units.slice(0, 2).map(({ unit }) => unit)).toEqual(expect.arrayContaining(["x/sensor", "x/wire:sig"]));
  });
  it("accuses a thermistor that opens while it is warmed, and the way to it", () => {
    const { healthy = 1 } = diagnoseJob(
      job("thermistor-2w", "heat", { min: 1.8, max: 5 }, { setup: { key: "on", stimulus: { kind: "heat" }, truth: { temperature: 20 } } }),
    );
    expect(healthy).toBeLessThan(0.01);
  });
  it("knows that degrees rise while volts fall", () => {
    const more = { meter: "scan" as const, red: "sig@module", black: undefined, unit: "degC" };
    const at = (value: Reading["value"]) => diagnoseJob({ ...job("thermistor-2w", "heat", value, more), conditions: { temperature: 20 } }).healthy ?? 0;
    expect(at({ min: 20, max: 55 })).toBeGreaterThan(5 * at({ min: -40, max: 20 }));
  });
  it("has a window as far as a sweep goes where the pin follows it, none where nobody knows how far, and its usual one where it does not follow", () => {
    const at = (family: string, red: string, kind: "sweep" | "vacuum") =>
      expectHealthy(
        buildModel([{ id: "x", family }]),
        { circuit: "x", meter: "volts-dc", red, black: "bat-", record: "min-max", setup: { stimulus: { kind } } },
        "m",
      );
    // Shut 0.3 to 1.0 V, open 3.4 to 4.8 V; cut short at 2.9 V it accuses nobody.
    const swept = at("potentiometer-3w", "sig@sensor", "sweep");
    expect(swept?.low).toBeGreaterThan(1);
    expect(swept?.low).toBeLessThan(2.2);
    expect(swept?.high).toBeGreaterThan(3.9);
    expect(at("pressure-3w", "sig@sensor", "vacuum")).toEqual({ low: null, high: null, unit: "V" });
    expect(at("potentiometer-3w", "ref@sensor", "sweep")?.high).toBeLessThan(0.2);
  });
  it("swings on a virtual car too", () => {
    const model = buildModel([{ id: "x", family: "hall-3w" }]);
    const [shown] = job("hall-3w", "steel", 0).readings.map((reading) => simulateReading(model, reading, [], "m"));
    expect(shown).toMatchObject({ min: expect.any(Number), max: expect.any(Number) });
    const { min, max } = shown as { min: number; max: number };
    expect(max - min).toBeGreaterThan(4);
  });
});
