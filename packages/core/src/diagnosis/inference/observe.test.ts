import type { Reading } from "@fox-lamp/language";
import { diagnoseJob } from "..";
import { inferenceOf } from "./inference";
import { slipShares, speaking } from "./observe";

const CURVE = [
  [-20, 18_900],
  [0, 6700],
  [20, 2700],
  [40, 1210],
  [80, 313],
  [120, 106],
];
const circuits = [{ id: "ect", family: "thermistor-2w", with: { vref: 5, pullup: 2200, curve: CURVE } }] as never;
const inference = inferenceOf(circuits);
const volts = (value: number, stimulus?: object): Reading => ({
  circuit: "ect",
  meter: "volts-dc",
  red: "sig@sensor",
  black: "bat-",
  setup: { truth: { temperature: 22 }, ...(stimulus === undefined ? {} : { stimulus }) } as never,
  value,
});

/** Shares of slips of readings that were taken one after the other. */
function sharesOf(...readings: readonly Reading[]): (number | undefined)[] {
  return slipShares(
    speaking(
      readings.map((reading, index) => ({ reading, id: `r${index}`, where: "" })),
      (reading) => inference.probe(reading, ""),
    ),
  );
}

describe("a measurement that is taken again", () => {
  it("corrects the one before it", () => {
    const [first, second] = sharesOf(volts(5), volts(2.6));
    expect(first).toBeGreaterThan(0.1);
    expect(second).toBeLessThan(0.01);
  });
  it("corrects nothing that showed while a connector was moved or a track swept", () => {
    for (const stimulus of [{ kind: "wiggle", at: "module" }, { kind: "sweep" }])
      expect(sharesOf(volts(5, stimulus), volts(2.6, stimulus))).toEqual([undefined, undefined]);
  });
});

describe("a line that opened once while the module's plug was moved", () => {
  const scan = (id: string, value: number, stimulus?: object): Reading =>
    ({ id, circuit: "ect", meter: "scan", red: "sig@module", setup: { truth: { temperature: 22 }, ...(stimulus && { stimulus }) }, value }) as never;
  const at = (place: string): object => ({ kind: "wiggle", at: place });
  const { verdict, healthy, next } = diagnoseJob({
    circuits,
    readings: [scan("r1", 2.58), scan("r2", 2.57, at("sensor")), scan("r3", 2.59, at("module")), scan("r4", 5, at("module")), scan("r5", 2.6, at("module"))],
  });
  it("is not taken for a slip because it did not open the next time", () => {
    expect(healthy).toBeLessThan(0.5);
    expect([verdict.unit, ...verdict.group]).toContain("ect/contact:sig@module");
  });
  it("is moved again at once", () => {
    expect(next[0]?.setup.stimulus).toEqual(at("module"));
  });
});
