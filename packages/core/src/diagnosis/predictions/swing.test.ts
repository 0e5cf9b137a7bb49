import type { Setup } from "@fox-lamp/language";
import { inferenceOf } from "../inference/inference";
import type { PredictionTable } from "./table";

const CRANK = inferenceOf([{ id: "crank", family: "vr-2w" }]);
const rpm = (setup: Setup) => CRANK.probe({ circuit: "crank", meter: "scan", red: "sig+@module", unit: "rpm", setup }, "m");

/** By how much a sound sensor's swing is larger than its module wants, with what moves it. */
function counted(setup: Setup) {
  const probe = rpm(setup);
  if (probe === null) throw new Error("the module watches the sensor");
  const [table] = CRANK.tablesFor([{ key: `crank rpm ${JSON.stringify(setup)}`, probe }], null);
  const swing = table?.swing as PredictionTable;
  const slot = swing.slot[CRANK.grid.fault.indexOf(0)] as number;
  const d = CRANK.columns.count;
  return { mean: swing.mean[slot] as number, noise: swing.noise[slot] as number, slopes: swing.jacobian.slice(slot * d, (slot + 1) * d), words: table?.words };
}

describe("by how much a swing is larger than a module wants", () => {
  it("follows the speed: four times as fast, four times as large", () => {
    const [crank, idle] = [counted({ key: "crank" }), counted({ key: "idle" })];
    // 200 and 800 turns a minute.
    expect(idle.mean - crank.mean).toBeCloseTo(Math.log(4), 1);
    expect(crank.mean).toBeGreaterThan(1);
  });

  it("is far from counted where nothing turns, and nothing moves that", () => {
    const { mean, noise, slopes } = counted({ key: "on" });
    expect(mean).toBeLessThan(-5);
    expect(noise).toBe(1);
    expect(slopes.every((slope) => slope === 0)).toBe(true);
  });

  it("moves with the part and with what this module wants, the same from reading to reading", () => {
    const trace = CRANK.columns.traceOf.get("crank");
    const [crank, idle] = [counted({ key: "crank" }), counted({ key: "idle" })];
    for (const column of [trace?.form ?? -1, trace?.hears ?? -1]) {
      expect(crank.slopes[column]).toBeGreaterThan(0.2);
      expect(idle.slopes[column]).toBe(crank.slopes[column]);
    }
  });

  it("is asked of signals that differ in size alone: a switched one is counted without a doubt", () => {
    const hall = inferenceOf([{ id: "cam", family: "hall-3w" }]);
    const probe = hall.probe({ circuit: "cam", meter: "scan", red: "sig@module", unit: "rpm", setup: { key: "crank" } }, "m");
    if (probe === null) throw new Error("the module watches the sensor");
    expect(hall.tablesFor([{ key: "cam rpm", probe }], null)[0]?.swing).toBeNull();
    expect(hall.columns.traceOf.get("cam")?.hears).toBe(-1);
  });
});
