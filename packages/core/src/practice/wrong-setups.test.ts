import type { Setup } from "@fox-lamp/language";
import { buildModel } from "../circuit";
import { scopeAdvice } from "../procedures";
import { WRONG_SETUPS, wrongSetup } from "./wrong-setups";

const IDLE: Setup = { key: "idle" };
const HALL = [{ id: "cam", family: "hall-3w", with: { teeth: 36, missing: 1 } }];

function advised(family: string, setup: Setup) {
  const model = buildModel([{ id: "c", family }]);
  return scopeAdvice(model, model.circuits[0] as (typeof model.circuits)[number], setup);
}

describe("how a scope is set for a circuit", () => {
  it("holds the signal, takes enough samples of each tooth, and sees a turn come back", () => {
    const advice = advised("hall-3w", { key: "crank" });
    expect(advice).toMatchObject({ kind: "teeth", coupling: "dc", peakCapture: false, against: "bat-" });
    expect(advice.rangeVolts).toBeGreaterThanOrEqual(5);
    expect(advice.rate).toBeGreaterThanOrEqual(20 * (advice.hertz ?? 0));
    expect(advice.triggerVolts).toBeGreaterThan(0.5);
  });
  it("is fast for a ring, long for a cell, and keeps peaks where the time base is slow", () => {
    expect(advised("knock-1w", IDLE)).toMatchObject({ kind: "ring", peakCapture: false, triggerVolts: null });
    expect(advised("knock-1w", IDLE).rate).toBeGreaterThanOrEqual(100_000);
    expect(advised("oxygen-narrow", IDLE)).toMatchObject({ kind: "switching", seconds: 10, peakCapture: true });
    expect(advised("potentiometer-3w", { key: "on", stimulus: { kind: "sweep" } })).toMatchObject({ kind: "moved", rangeVolts: 10 });
    expect(advised("vr-2w", { key: "crank" })).toMatchObject({ against: "sig-", kind: "teeth" });
  });
});

describe("a wrong set-up hides", () => {
  const shown = (which: (typeof WRONG_SETUPS)[number]) => wrongSetup(HALL, "cam", IDLE, which);
  it("a five-volt signal in steps of three volts", () => {
    const { wrong, set } = shown("coarse-range");
    expect(set).toBe(400);
    const levels = new Set(wrong);
    expect(levels.size).toBeLessThanOrEqual(4);
    for (const level of levels) expect(Math.abs(level / 3.125 - Math.round(level / 3.125))).toBeLessThan(1e-6);
  });
  it("the top of a signal above its range", () => {
    const { shown: right, instead, set } = shown("small-range");
    expect(right.high).toBeGreaterThan(4.5);
    expect(instead.high).toBeLessThanOrEqual(set);
  });
  it("the level a signal stands on", () => {
    const { shown: right, instead } = shown("ac-coupling");
    expect(right.low).toBeGreaterThan(-0.2);
    expect(instead.low).toBeLessThan(-1);
    expect(instead.high - instead.low).toBeCloseTo(right.high - right.low, 3);
  });
  it("most of the edges, and makes a slower signal of the rest", () => {
    const { shown: right, instead } = shown("slow-rate");
    expect(instead.edges).toBeLessThan(0.3 * right.edges);
    expect(instead.edges).toBeGreaterThan(0);
  });
  it("a spike between two samples", () => {
    const { shown: right, instead } = shown("no-peak");
    expect(right.high - instead.high).toBeGreaterThan(1);
  });
  it("something of every family, without failing on any", () => {
    for (const family of ["vr-2w", "knock-2w", "oxygen-narrow", "maf-freq", "thermistor-2w"]) {
      for (const which of WRONG_SETUPS) {
        const { right, wrong } = wrongSetup([{ id: "c", family }], "c", IDLE, which);
        expect(wrong).toHaveLength(right.length);
        expect(right.every(Number.isFinite)).toBe(true);
      }
    }
  });
});
