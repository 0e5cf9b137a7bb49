import type { Setup } from "@fox-lamp/language";
import { buildModel } from "../circuit";
import { analyseCapture } from "../signals";
import { traceOf } from "../vehicle";
import { traceBands } from "./trace-bands";

const leads = (circuit: string, pin: string) => ({ circuit, red: `${pin}@sensor`, black: "bat-" });

describe("the bands a sound car's traces stay in", () => {
  const CASES: readonly [string, string, string[], Setup][] = [
    ["hall-3w", "cranking", ["feed", "sig", "gnd"], { key: "crank" }],
    ["hall-3w", "idling", ["feed", "sig", "gnd"], { key: "idle" }],
    ["potentiometer-3w", "swept", ["ref", "sig", "gnd"], { key: "on", stimulus: { kind: "sweep" } }],
    ["oxygen-narrow", "idling", ["sig"], { key: "idle" }],
    ["maf-freq", "idling", ["sig"], { key: "idle" }],
    ["pressure-3w", "key on", ["ref", "sig", "gnd"], { key: "on" }],
  ];
  it.each(CASES)("hold the levels of a sound %s, %s", (family, _what, pins, setup) => {
    const model = buildModel([{ id: "c", family }]);
    const own = model.circuits[0] as (typeof model.circuits)[number];
    const bands = traceBands(
      model,
      pins.map((pin) => leads("c", pin)),
      setup,
    );
    const channels = pins.map((pin) => ({ name: `c:${pin}`, red: `c:${pin}@sensor`, black: "bat-" }));
    const trace = traceOf(model, own, setup, [], { channels, seconds: 4, rate: 5000, seed: 2 });
    const read = analyseCapture({ start: 0, ...trace }, { circuitOf: () => own });
    read.channels.forEach(({ low, high }, index) => {
      const own = bands[index] ?? [];
      expect(own.length).toBeGreaterThan(0);
      for (const level of [low, high]) expect(own.some((band) => level >= band.low - 0.03 && level <= band.high + 0.03)).toBe(true);
    });
  });
  it("are two for what goes between two levels, one for what stands, none for what is no measurement", () => {
    const model = buildModel([{ id: "crank", family: "hall-3w" }]);
    const [sig, gnd, none, stray] = traceBands(
      model,
      [leads("crank", "sig"), leads("crank", "gnd"), { circuit: null, red: null, black: null }, leads("crank", "ref")],
      { key: "idle" },
    );
    expect(sig).toHaveLength(2);
    expect(gnd).toHaveLength(1);
    expect([none, stray]).toEqual([[], []]);
  });
  it("are half a wave's size to each side of where an inductive sensor rests", () => {
    const [[below, above] = []] = traceBands(buildModel([{ id: "c", family: "vr-2w" }]), [{ circuit: "c", red: "sig+@sensor", black: "sig-@sensor" }], {
      key: "crank",
    });
    expect(below?.low).toBeLessThan(below?.high ?? 0);
    expect(below?.high).toBeLessThan(above?.low ?? 0);
    expect((below?.low ?? 0) + (above?.high ?? 0)).toBeCloseTo((below?.high ?? 0) + (above?.low ?? 0), 6);
  });
});
