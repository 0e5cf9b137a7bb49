import { traceFileSchema } from "@fox-lamp/language";
import { buildModel } from "../circuit";
import { leadsOf, traceFile } from "./trace";

const CIRCUITS = [
  { id: "crank", family: "vr-2w" },
  { id: "cam", family: "hall-3w", with: { teeth: 4 } },
];
const file = (over: object = {}) =>
  traceFileSchema.parse({ circuits: CIRCUITS, channels: ["crank:sig+", "cam:sig"], rate: 10_000, seconds: 0.2, setup: { key: "idle" }, ...over });

describe("the leads of a channel", () => {
  const model = buildModel(CIRCUITS);
  it("are at the sensor against the battery's minus, a pair against its other wire", () => {
    expect(leadsOf(model, "crank:sig+", "c")).toEqual({ name: "crank:sig+", red: "crank:sig+@sensor", black: "crank:sig-@sensor" });
    expect(leadsOf(model, "cam:gnd@module", "c")).toEqual({ name: "cam:gnd@module", red: "cam:gnd@module", black: "bat-" });
    expect(leadsOf(model, "feed", "c")).toMatchObject({ red: "cam:feed@sensor" });
    expect(leadsOf(model, "bat+", "c")).toEqual({ name: "bat+", red: "bat+", black: "bat-" });
  });
  it("are refused for a pin that is not there, with those that are", () => {
    expect(() => leadsOf(model, "cam:ref", "channels[0]")).toThrow(/channels\[0\]: "cam:ref" is no pin of these circuits; expected one of .*cam:sig/u);
  });
});

describe("a simulated capture", () => {
  it("has every channel, as long and as fine as asked, on one turn of the engine", () => {
    const capture = traceFile(file());
    expect(capture.channels.map(({ name, samples }) => [name, samples.length])).toEqual([
      ["crank:sig+", 2000],
      ["cam:sig", 2000],
    ]);
    expect(capture.rate).toBe(10_000);
  });
  it("comes in the steps of its instrument, cut at its range", () => {
    const { channels } = traceFile(file({ channels: [{ name: "cam", red: "cam:sig@sensor" }], bits: 8, range: 4 }));
    const samples = channels[0]?.samples ?? new Float64Array(0);
    for (const value of samples.subarray(0, 500)) expect(Math.abs(value / (4 / 128) - Math.round(value / (4 / 128)))).toBeLessThan(1e-9);
    expect(Math.max(...samples)).toBeLessThanOrEqual(4);
  });
  it("shows its faults when they are there, and a broken tooth at every turn", () => {
    const lost =
      traceFile(file({ channels: ["cam:gnd"], faults: [{ id: "cam/wire:gnd/open" }], during: [{ from: 0.05, to: 0.1 }] })).channels[0]?.samples ?? [];
    expect(Math.max(...lost.slice(0, 490))).toBeLessThan(0.5);
    expect(Math.min(...lost.slice(510, 990))).toBeGreaterThan(1);
    const edges = (broken: number[]): number => {
      const samples = traceFile(file({ channels: ["cam:sig"], seconds: 1, brokenTeeth: broken })).channels[0]?.samples ?? new Float64Array(0);
      let count = 0;
      for (let at = 1; at < samples.length; at += 1) if ((samples[at] as number) > 2.5 !== (samples[at - 1] as number) > 2.5) count += 1;
      return count;
    };
    expect(edges([1]) / edges([])).toBeCloseTo(0.75, 1);
  });
  it("of a circuit that is not in the file is refused", () => {
    expect(() => traceFile(file({ circuit: "purge" }))).toThrow('circuit: "purge" is none of the file\'s circuits; expected one of crank, cam');
    expect(traceFileSchema.safeParse({ circuits: CIRCUITS, channels: [], rate: 1, seconds: 1 }).success).toBe(false);
  });
});
