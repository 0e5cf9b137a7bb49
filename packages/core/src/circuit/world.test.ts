import { type Setup, setupSchema } from "@fox-lamp/language";
import { fixedWorld, NO_WORLD, type World, worldSource, worldSourcesOf } from "./index";

const { forced: _forced, ...STILL } = NO_WORLD;
const WORLD: World = { ...STILL, quantity: "temperature", unit: "degC", accuracy: 1.5 };

describe("what a setup says of the sensed quantity", () => {
  it("is as sure as its instrument where it stands bare, as sure as somebody says where somebody does", () => {
    expect(fixedWorld(WORLD, { truth: { temperature: 20 } })).toEqual({ value: 20, spread: 1.5 });
    expect(fixedWorld(WORLD, { truth: { temperature: { value: 20 } } })).toEqual({ value: 20, spread: 1.5 });
    expect(fixedWorld(WORLD, { truth: { temperature: { value: 20, within: 8 } } })).toEqual({ value: 20, spread: 4 });
    expect(fixedWorld(WORLD, {})).toBeNull();
  });
  it("reads a level in either form", () => {
    const level: World = { ...NO_WORLD, quantity: "level" };
    const said = (truth: Setup["truth"]): unknown => fixedWorld(level, { truth })?.value;
    expect(said({ level: "high" })).toBe(1);
    expect(said({ level: { value: "low" } })).toBe(0);
    expect(said({ level: { value: 1 } })).toBe(1);
  });
  it("is refused where it is no quantity, and read back as it was written", () => {
    const kept = { truth: { pressure: { value: 98, within: 1 }, position: 0 } };
    expect(setupSchema.parse(kept)).toEqual(kept);
    for (const truth of [{ pressure: { within: 1 } }, { pressure: { value: 98, within: -1 } }, { pressure: { value: "98" } }, { level: { value: "half" } }])
      expect(setupSchema.safeParse({ truth }).success).toBe(false);
  });
});

describe("where the error of a sensed value comes from", () => {
  const flow: World = { ...NO_WORLD, quantity: "flow", forced: ({ running }) => (running ? { value: 4, spread: 1 } : null) };
  const lever: World = {
    ...STILL,
    quantity: "position",
    low: 0,
    high: 100,
    accuracy: 1,
    settable: [0, 100].map((value) => ({ value, how: "", stimulus: undefined, minutes: 0.1 })),
  };
  it("is the gauge's, the state of the engine that brings it, or the stop's it stands at", () => {
    expect(worldSource(flow, { key: "idle" })).toBe("idle");
    expect(worldSource(flow, { key: "on" })).toBe("known");
    expect(worldSource(lever, { truth: { position: 100 } })).toBe("set1");
    expect(worldSource(lever, { truth: { position: 40 } })).toBe("known");
    expect(worldSource(lever, { truth: { position: { value: 40, within: 2 } } })).toBe("known");
    expect(worldSource(lever, { truth: { position: { value: 50, within: 60 } } })).toBe("anywhere");
    expect(worldSource(lever, {})).toBe("known");
  });
  it("is the gun's or the spray's where a part is warmed or cooled without a thermometer: that says nothing of the car", () => {
    const warmed: Setup = { key: "off", stimulus: { kind: "heat" } };
    expect(worldSource(WORLD, warmed)).toBe("moved");
    expect(fixedWorld(WORLD, warmed)?.spread).toBeGreaterThan(20);
    expect(fixedWorld(WORLD, { stimulus: { kind: "cool" } })?.value).toBeLessThan(fixedWorld(WORLD, warmed)?.value ?? 0);
    expect(worldSource(WORLD, { ...warmed, truth: { temperature: 90 } })).toBe("known");
    expect(fixedWorld(lever, { stimulus: { kind: "heat" } })).toBeNull();
    expect(worldSourcesOf(WORLD)).toEqual(["moved"]);
  });
  it("is one of those the world can have", () => {
    expect(worldSourcesOf(flow)).toEqual(["crank", "idle", "rev"]);
    expect(worldSourcesOf(lever)).toEqual(["set0", "set1"]);
    expect(worldSourcesOf(NO_WORLD)).toEqual([]);
  });
});
