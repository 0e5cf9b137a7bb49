import type { Circuit, Measurement } from "@fox-lamp/language";
import { buildModel } from "../src/circuit";
import { expectHealthy } from "../src/procedures";

const cell = (more: Circuit["with"] = {}): Circuit => ({ id: "o2", family: "oxygen-narrow", with: more });
const idle: Measurement = { circuit: "o2", meter: "scan", red: "sig@module", setup: { key: "idle" } };
const window = (circuit: Circuit, measurement: Measurement) => expectHealthy(buildModel([circuit]), measurement, "m");

/** From the field guide: lean 0.03 to 0.2 V, rich 0.65 to 0.95 V among sound cells. */
describe("what sound oxygen sensors show", () => {
  it("swings as far as aged and as new cells do, not as little as a worn-out one", () => {
    const { low, high } = window(cell(), { ...idle, record: "min-max" }) ?? {};
    expect(low).toBeLessThan(0.57);
    expect(low).toBeGreaterThan(0.4);
    expect(high).toBeGreaterThan(0.86);
  });
  it.each([
    ["high", 0.68, 0.95],
    ["low", 0.05, 0.18],
  ] as const)("reaches its levels one by one where the mixture is known: %s", (level, from, to) => {
    const { low, high } = window(cell(), { ...idle, setup: { key: "idle", truth: { level } } }) ?? {};
    expect(low).toBeLessThan(from);
    expect(high).toBeGreaterThan(to);
  });
  it("wanders a little behind the catalyst, and does not switch", () => {
    const { low, high } = window(cell({ downstream: true }), { ...idle, record: "min-max" }) ?? {};
    expect(low).toBeLessThan(0.06);
    expect(high).toBeGreaterThan(0.12);
    expect(high).toBeLessThan(0.5);
  });
});
