import { buildModel, type CircuitModel, type Situation, set } from "../circuit";
import { faultsOf } from "./catalogue";
import { Notice, noticedOhms } from "./notice";

const model = buildModel([{ id: "x", family: "thermistor-2w" }]);
const notice = new Notice(model, model.circuits[0] as CircuitModel);

describe("whether anybody complains of a fault", () => {
  it("depends on whether it moves what is watched", () => {
    expect(notice.notices(() => [])).toBe(false);
    expect(notice.notices(() => set("wire:sig#0", "ohms", 1e9))).toBe(true);
    expect(notice.notices(() => set("wire:sig#0", "ohms", 0.06))).toBe(false);
  });
  it("is asked over a span of ohms: from where on, more is worse", () => {
    const span = { low: 0.3, high: 1e6 };
    const range = noticedOhms(notice, span, true, (ohms) => () => set("wire:sig#0", "ohms", ohms));
    expect(range).not.toBeNull();
    const { low } = range as { low: number };
    expect(notice.notices(() => set("wire:sig#0", "ohms", 1.3 * low))).toBe(true);
    expect(notice.notices(() => set("wire:sig#0", "ohms", low / 2))).toBe(false);
    expect(noticedOhms(notice, span, true, () => () => [])).toBeNull();
  });
});

describe("a part the wrong way round", () => {
  const swapped = (family: string, id: string): boolean | undefined =>
    faultsOf(buildModel([{ id: "x", family }])).find((fault) => fault.id === `x/${id}`)?.matters;
  it("is noticed where it reads something else, not where a winding or a heater works both ways", () => {
    expect(swapped("vr-2w", "contact:sig+@sensor/swapped:sig-")).toBe(false);
    expect(swapped("thermistor-2w", "contact:sig@sensor/swapped:gnd")).toBe(false);
    expect(swapped("potentiometer-3w", "contact:ref@sensor/swapped:sig")).toBe(true);
    expect(swapped("solenoid-2w", "contact:feed@sensor/swapped:ctl")).toBe(false);
  });
});

describe("a leak from a signal", () => {
  const highest = (family: string, id: string): number => {
    const severity = faultsOf(buildModel([{ id: "x", family }])).find((fault) => fault.id === `x/${id}`)?.severity;
    return severity?.key === "ohms" ? severity.high : 0;
  };
  it("counts as far as a meter at the open plug sees it: far where the line is held by little", () => {
    expect(highest("potentiometer-3w", "wire:sig/short-to:ref")).toBeGreaterThan(2e5);
    expect(highest("thermistor-2w", "wire:sig/short-to:gnd")).toBeLessThan(6e4);
  });
});

describe("a feed that is missing while the engine is cranked", () => {
  const has = (family: string, feedV: number): boolean =>
    faultsOf(buildModel([{ id: "x", family, with: { feedV } }])).some(({ id }) => id === "x/wire:feed/cranking");
  it("is a fault of what is needed to start and fed by the ignition switch", () => {
    expect(has("hall-3w", 12)).toBe(true);
    expect(has("hall-3w", 5)).toBe(false);
    expect(has("solenoid-2w", 12)).toBe(false);
  });
  it("shows while cranking alone", () => {
    const circuits = [{ id: "x", family: "hall-3w", with: { feedV: 12 } }];
    const fault = faultsOf(buildModel(circuits)).find(({ id }) => id === "x/wire:feed/cranking");
    const effect = (key: "on" | "crank"): number | undefined =>
      fault?.effect(1, { setup: { key } } as Situation, { direction: 1, section: 0, weight: 1 }, 0).length;
    expect(effect("crank")).toBe(1);
    expect(effect("on")).toBe(0);
  });
});

describe("a bad connection of a line that carries amperes", () => {
  const wire = (family: string, pin: string) => faultsOf(buildModel([{ id: "x", family }])).find(({ id }) => id === `x/wire:${pin}/resistance`);
  it("starts where too much drops along it at work, and rarely has more than a hundred ohms", () => {
    for (const [family, pin] of [
      ["maf-voltage", "pgnd"],
      ["oxygen-narrow", "htr-feed"],
      ["solenoid-2w", "ctl"],
    ] as const) {
      const fault = wire(family, pin);
      expect(fault?.severity?.low).toBeLessThan(2);
      expect(fault?.usualTo).toBe(100);
    }
  });
  it("is another matter where some milliamperes flow", () => {
    // A lamp at the open plug stands before the contact in it: some ohms there are found by nobody, and missed by nobody.
    const contact = faultsOf(buildModel([{ id: "x", family: "pressure-3w" }]));
    const lowOf = (id: string): number | undefined => contact.find((fault) => fault.id === `x/contact:${id}/corroded`)?.severity?.low;
    expect(lowOf("ref@module")).toBe(4);
    expect(lowOf("ref@sensor")).toBeGreaterThan(20);
    expect(wire("hall-3w", "feed")?.severity?.low).toBe(4);
    expect(wire("hall-3w", "feed")?.usualTo).toBeUndefined();
  });
});

describe("a bad connection of a signal", () => {
  const faultOf = (family: string, local: string) => faultsOf(buildModel([{ id: "x", family }])).find(({ id }) => id === `x/${local}`);
  it("is found by an ohmmeter along the wire long before the module misses anything, and is usually met from there on", () => {
    for (const family of ["hall-3w", "pressure-3w", "thermistor-2w", "switch", "knock-1w", "knock-2w"]) {
      const fault = faultOf(family, "wire:sig/resistance");
      expect(fault?.severity?.low).toBe(4);
      expect(fault?.noticedFrom).toBeGreaterThan(100);
      expect(fault?.usualFrom).toBe(fault?.noticedFrom);
    }
  });
  it("in a plug is no longer there when the plug is open, and counts from where the module misses something", () => {
    for (const family of ["hall-3w", "pressure-3w", "thermistor-2w", "switch"]) {
      const fault = faultOf(family, "contact:sig@module/corroded");
      expect(fault?.severity?.low).toBe(fault?.noticedFrom);
    }
  });
  it("of a piezo is missed where a tenth of its ring is left: megohms", () => {
    for (const family of ["knock-1w", "knock-2w"]) expect(faultOf(family, "contact:sig@module/corroded")?.noticedFrom).toBeGreaterThan(1e6);
  });
  it("of a winding is missed where the module no longer counts its teeth", () => {
    const noticed = faultOf("vr-2w", "contact:sig+@module/corroded")?.noticedFrom ?? 0;
    // 2.4 V peak to peak while cranking, half a volt wanted, into 51 kilo-ohm: a fifth of it is left behind 190 kilo-ohm.
    expect(noticed).toBeGreaterThan(150_000);
    expect(noticed).toBeLessThan(300_000);
  });
});
