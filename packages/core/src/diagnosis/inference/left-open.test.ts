import type { Circuit } from "@fox-lamp/language";
import { diagnoseJob } from "../explanation/diagnose";
import { Session } from "./session";

const circuits: Circuit[] = [{ id: "ect", family: "thermistor-2w", title: "Coolant temperature" }];
const cache = new Session();
const leftOpen = (units: readonly (readonly [string, number])[]) => ({ units: units.map(([unit, probability]) => ({ unit, probability })) });
const oddsOf = (job: Parameters<typeof diagnoseJob>[0], unit: string): number =>
  diagnoseJob(job, cache).units.find((candidate) => candidate.unit === unit)?.probability ?? 0;

describe("what an earlier job left open", () => {
  const facts = {
    leftOpen: leftOpen([
      ["ect/wire:gnd", 0.55],
      ["ect/contact:gnd@sensor", 0.4],
    ]),
  };
  it("starts the next job about where the last one ended", () => {
    const before = oddsOf({ circuits }, "ect/wire:gnd");
    const after = oddsOf({ circuits, facts }, "ect/wire:gnd");
    expect(after).toBeGreaterThan(3 * before);
    expect(after).toBeGreaterThan(0.25);
    expect(oddsOf({ circuits, facts }, "ect/contact:gnd@sensor")).toBeGreaterThan(0.2);
  });
  it("proves nothing by itself, however sure it was", () => {
    const { verdict } = diagnoseJob({ circuits, facts: { leftOpen: leftOpen([["ect/sensor", 1]]) } }, cache);
    expect(verdict.status).toBe("narrowing");
  });
  it("is turned by readings of this job", () => {
    // The sensor's own resistance is right for the temperature: the sensor it was not.
    const sure = { leftOpen: leftOpen([["ect/sensor", 0.9]]) };
    const at20 = {
      circuit: "ect",
      meter: "ohms" as const,
      red: "sig@part",
      black: "gnd@part",
      setup: { key: "off" as const, open: ["sensor"], truth: { temperature: 20 } },
    };
    const open = { circuit: "ect", meter: "volts-dc" as const, red: "sig@sensor", black: "bat-", setup: { open: ["sensor"] } };
    const readings = [
      { ...at20, id: "r1", value: 2500 },
      { ...open, id: "r2", value: 0.02 },
    ];
    expect(oddsOf({ circuits, facts: sure, readings }, "ect/sensor")).toBeLessThan(0.05);
  });
  it("of circuits that are not on the sheet says nothing", () => {
    const foreign = { leftOpen: leftOpen([["map/sensor", 0.9]]) };
    expect(diagnoseJob({ circuits, facts: foreign }, cache).units).toEqual(diagnoseJob({ circuits }, cache).units);
  });
});
