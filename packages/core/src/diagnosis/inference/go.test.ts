import type { Reading, Setup } from "@fox-lamp/language";
import { goesOf, goWith, isOf, type OnScreen, screenOf } from "./go";

const known = { throttle: { position: 0 }, valve: { position: 0 }, map: { pressure: 100 } };
const value = (circuit: string, setup: Setup, meter = "scan"): OnScreen => ({ circuit, meter, setup });
const together = (one: OnScreen, other: OnScreen): boolean => {
  const [first, second] = [screenOf(one, known), screenOf(other, known)];
  return first !== null && second !== null && isOf(goWith(first), second);
};

describe("values of the module that are read in one go", () => {
  it("stand on one screen in one state of the car, said or unsaid", () => {
    expect(together(value("throttle", {}), value("map", { key: "on" }))).toBe(true);
    expect(together(value("throttle", { truth: { position: 0 } }), value("map", { truth: { pressure: 100 } }))).toBe(true);
    expect(together(value("throttle", {}), value("map", { key: "idle" }))).toBe(false);
    expect(together(value("throttle", {}), value("throttle", {}, "volts-dc"))).toBe(false);
  });

  it("leave each circuit as it was in the go", () => {
    const open = { truth: { position: 100 } };
    expect(together(value("throttle", open), value("throttle", open))).toBe(true);
    expect(together(value("throttle", open), value("throttle", {}))).toBe(false);
    expect(together(value("throttle", open), value("valve", {}))).toBe(true);
    for (const kind of ["sweep", "tap", "snap"] as const)
      expect(together(value("throttle", { stimulus: { kind } }), value("valve", { stimulus: { kind } }))).toBe(false);
  });

  it("see the same connector moved or off, each circuit its own sensor's", () => {
    const moved = (at: string): Setup => ({ stimulus: { kind: "wiggle", at } });
    expect(together(value("throttle", moved("module")), value("map", moved("module")))).toBe(true);
    expect(together(value("throttle", moved("sensor")), value("map", moved("sensor")))).toBe(false);
    expect(together(value("throttle", moved("sensor")), value("map", moved("throttle:sensor")))).toBe(true);
    expect(together(value("throttle", { open: ["sensor"] }), value("map", { open: ["sensor"] }))).toBe(false);
  });
});

describe("goes", () => {
  const moved = (circuit: string, at: string, red = "sig@module", shown: Reading["value"] = 1) => ({
    id: "",
    where: "",
    reading: { circuit, meter: "scan", red, setup: { stimulus: { kind: "wiggle", at } }, value: shown } as Reading,
  });
  const goes = (...readings: Parameters<typeof goesOf>[0]): number[] => goesOf(readings, "", known);

  it("hold the values that follow one another while one connector is moved", () => {
    expect(goes(moved("throttle", "module"), moved("map", "module"), moved("valve", "module"))).toEqual([0, 0, 0]);
    expect(goes(moved("throttle", "module"), moved("throttle", "sensor"))).toEqual([0, 1]);
  });

  it("begin anew where a value comes again, and after anything else", () => {
    expect(goes(moved("throttle", "module"), moved("map", "module"), moved("throttle", "module"), moved("map", "module"))).toEqual([0, 0, 2, 2]);
    const still = { id: "", where: "", reading: { circuit: "map", meter: "scan", red: "sig@module", value: 1 } as Reading };
    expect(goes(moved("throttle", "module"), still, moved("map", "module"))).toEqual([0, -1, 2]);
  });

  it("hold no recording, which shows a moment by its ends", () => {
    expect(goes(moved("throttle", "module"), moved("map", "module", "sig@module", { min: 0, max: 1 }))).toEqual([0, -1]);
  });
});
