import type { Circuit, Measurement } from "@fox-lamp/language";
import { buildModel } from "../circuit";
import { expectHealthy, windowEnds } from "./expect";

const window = (circuit: Circuit, measurement: Omit<Measurement, "circuit">) => expectHealthy(buildModel([circuit]), measurement as Measurement, "m");
const part = (black: string): Omit<Measurement, "circuit"> => ({ meter: "ohms", red: "sig@part", black, setup: { key: "off", open: ["sensor"] } });

describe("the window of an ohmmeter", () => {
  it("has no end above where a sound part may read OL", () => {
    const piezo = window({ id: "k", family: "knock-1w" }, part("engine"));
    expect(piezo?.low).toBeGreaterThan(1e4);
    expect(piezo?.high).toBeNull();
    expect(piezo?.word).toBeUndefined();
    expect(piezo === null ? null : windowEnds(piezo)?.high).toBe(Number.POSITIVE_INFINITY);
  });
  it("ends where the sheet says so, and where the part is no insulator", () => {
    expect(window({ id: "k", family: "knock-1w", with: { resistance: [90_000, 120_000] } }, part("engine"))?.high).toBeLessThan(130_000);
    expect(window({ id: "e", family: "thermistor-2w" }, part("gnd@part"))?.high).toBeLessThan(1e6);
  });
  it("is a word where nothing leads at all", () => {
    const open = window(
      { id: "e", family: "thermistor-2w" },
      { meter: "ohms", red: "sig@sensor", black: "bat-", setup: { key: "off", open: ["sensor", "module"] } },
    );
    expect(open).toEqual({ low: null, high: null, unit: "ohm", word: "OL" });
    expect(open === null ? 0 : windowEnds(open)).toBeNull();
  });
});

describe("the window of a pedal's second track nobody stated", () => {
  const at = (circuit: Circuit, red: string) => window(circuit, { meter: "volts-dc", red, black: "bat-", setup: { key: "on", truth: { position: 0 } } });
  it("holds both kinds, and one where the sheet says which", () => {
    const silent = at({ id: "app", family: "dual-track" }, "sig2@sensor");
    expect(silent?.low).toBeLessThan(0.4);
    expect(silent?.high).toBeGreaterThan(4.2);
    expect(at({ id: "app", family: "dual-track", with: { opposed: true } }, "sig2@sensor")?.low).toBeGreaterThan(3);
    expect(at({ id: "app", family: "dual-track", with: { opposed: false } }, "sig2@sensor")?.high).toBeLessThan(1);
    expect(at({ id: "app", family: "dual-track" }, "sig1@sensor")?.high).toBeLessThan(1.6);
  });
});

describe("the window of a slow sweep", () => {
  const swept = (circuit: Circuit, red: string) =>
    window(circuit, { meter: "capture", red, black: "bat-", setup: { stimulus: { kind: "sweep" } }, record: "min-max" } as never);
  it("is how far the line goes from one end to the other: it holds what stated ends make, and shuts out a short way", () => {
    // 0.5 to 4.5 V by the sheet: four volts, or half of them where it is cut short.
    const stated = swept(
      {
        id: "t",
        family: "potentiometer-3w",
        with: {
          transfer: [
            [0, 0.5],
            [100, 4.5],
          ],
        },
      },
      "sig@sensor",
    );
    expect(stated?.low).toBeGreaterThan(1.5);
    expect(stated?.low).toBeLessThan(2);
    expect(stated?.high).toBeGreaterThan(4.1);
    const silent = swept({ id: "t", family: "potentiometer-3w" }, "sig@sensor");
    expect(silent?.low).toBeLessThan(stated?.low ?? 0);
  });
  it("is of next to nothing on a line that does not follow", () => {
    expect(swept({ id: "t", family: "potentiometer-3w" }, "ref@sensor")?.high).toBeLessThan(0.2);
  });
});
