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

describe("a DC meter's recording of what alternates", () => {
  const winding = inferenceOf([{ id: "ckp", family: "vr-2w" }]);
  const spokenBy = (min: number, max: number) => {
    const setup = { key: "crank" as const };
    const reading: Reading = { circuit: "ckp", meter: "volts-dc", red: "sig+@sensor", black: "sig-@sensor", record: "min-max", setup, value: { min, max } };
    return speaking([{ reading, id: "r1", where: "" }], (one) => winding.probe(one, "")).map(({ suffix, value }) => [suffix, value]);
  };
  it("says where the line stands where nothing of it was caught, and both ends where they were", () => {
    expect(spokenBy(-0.01, 0.02)).toEqual([["|mean", 0.005]]);
    expect(spokenBy(-0.4, 0.45)).toEqual([
      ["|min", -0.4],
      ["|max", 0.45],
    ]);
  });
});

describe("a plug that was found off", () => {
  const look: Reading = { circuit: "ect", meter: "look", red: "sensor", setup: { key: "off" }, value: "unplugged" };
  it("makes of the next reading no repeat of the one before", () => {
    expect(sharesOf(volts(5), look, volts(2.6)).filter((share) => share !== undefined && share > 0.1)).toEqual([]);
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
