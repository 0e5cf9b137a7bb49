import type { Circuit, Measurement, Reading } from "@fox-lamp/language";
import { buildModel } from "../circuit";
import { Session } from "../diagnosis";
import { expectHealthy } from "../procedures";
import { SoundCircuits, soundCircuits } from "./sound-circuits";

const ECT: Circuit = { id: "ect", family: "thermistor-2w" };
const MAP: Circuit = {
  id: "map",
  family: "pressure-3w",
  with: {
    transfer: [
      [20, 0.4],
      [105, 4.65],
    ],
  },
};
const volts = (circuit: string, red: string, more: Partial<Measurement> = {}): Measurement => ({ circuit, meter: "volts-dc", red, black: "bat-", ...more });

describe("a job's circuits while they are sound", () => {
  const both = new SoundCircuits([ECT, MAP]);
  it("show what each shows with those it shares anything with, whatever else the job holds", () => {
    for (const measurement of [volts("map", "ref@sensor"), volts("map", "gnd@sensor", { setup: { key: "idle" } })])
      expect(both.window(measurement, "m")).toEqual(expectHealthy(buildModel([MAP]), measurement, "m"));
    expect(both.views().map(({ id }) => id)).toEqual(["ect", "map"]);
  });
  it("answer once, and the same again, whoever read what", () => {
    const asked = volts("ect", "sig@sensor", { setup: { open: ["sensor"] } });
    const first = both.window(asked, "m");
    const bytes = both.bytes;
    expect(both.window({ ...asked, id: "r9", value: 4.2 } as Reading, "m")).toBe(first);
    expect(both.bytes).toBe(bytes);
    expect(both.window({ ...asked, setup: { key: "off", open: ["sensor"] } }, "m")).not.toEqual(first);
    expect(both.bytes).toBeGreaterThan(bytes);
  });
  it("are asked all together where a lead or a plug is another circuit's", () => {
    const measurement = volts("ect", "sig@sensor", { setup: { open: ["map:sensor"] } });
    expect(both.window(measurement, "m")).toEqual(expectHealthy(buildModel([ECT, MAP]), measurement, "m"));
    expect(() => both.window(volts("ect", "sig@nowhere"), "m")).toThrow(/nowhere/u);
  });
  it("have volts at every place of a known circuit, and none of another", () => {
    const scene = both.volts({ circuit: "map", setup: { key: "on" } });
    expect(scene?.["ref@sensor"]).toBeCloseTo(5, 1);
    expect(scene?.["gnd@sensor"]).toBeLessThan(0.1);
    expect(both.volts({ circuit: "nobody", setup: {} })).toBeNull();
  });
  it("give scan data in the sensor's own unit where the test asks for volts, and only then", () => {
    const test = { test: "t", circuit: "map", meter: "scan", red: "sig@module", setup: { truth: { pressure: 60 } } } as const;
    const window = both.engineering(test);
    expect(window?.unit).toBe("kPa");
    expect(window?.low).toBeLessThan(60);
    expect(window?.high).toBeGreaterThan(60);
    expect(both.engineering({ ...test, unit: "kPa" })).toBeNull();
    expect(both.engineering({ ...test, meter: "volts-dc" })).toBeNull();
  });
  it("say of a book's limits what they come to, once", () => {
    const reading: Reading = { ...volts("map", "ref@sensor"), value: 5, limits: { low: 5.2, high: 5.4 } };
    const notes = both.limitNotes(reading, undefined);
    expect(notes.map(({ code }) => code)).toEqual(["conflict"]);
    expect(both.limitNotes({ ...reading, id: "r2" }, undefined)).toBe(notes);
  });
  it("are kept in a session by what their sheets say", () => {
    const session = new Session();
    expect(soundCircuits([ECT], session)).toBe(soundCircuits([{ ...ECT }], session));
    expect(soundCircuits([ECT], session)).not.toBe(soundCircuits([{ ...ECT, with: { pullup: 1000 } }], session));
  });
});
