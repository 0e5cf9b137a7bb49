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
    expect(wire("hall-3w", "feed")?.severity?.low).toBe(4);
    expect(wire("hall-3w", "feed")?.usualTo).toBeUndefined();
  });
});
