import { buildModel, circuitOf } from "../circuit";
import { generateTests } from "./generate";

/** What is measured of a sensor by itself: its leads, with what is done meanwhile. */
function byItself(family: string) {
  const model = buildModel([{ id: "c", family }]);
  return generateTests(model, circuitOf(model, "c", "circuit"))
    .filter(({ title }) => title.includes("itself, unplugged"))
    .map(({ meter, red, black, setup, opens, needs }) => ({ meter, red, black, setup, opens, needs }));
}

describe("a sensor that makes its own voltage", () => {
  it("is measured on its own terminals, a piezo while the block is tapped, a winding while the engine is cranked", () => {
    const tap = { stimulus: { kind: "tap" }, open: ["sensor"] };
    expect(byItself("knock-1w")).toEqual([{ meter: "volts-ac", red: "sig@part", black: "engine", setup: tap, opens: ["sensor"], needs: ["meter"] }]);
    expect(byItself("knock-2w")).toEqual([{ meter: "volts-ac", red: "sig@part", black: "gnd@part", setup: tap, opens: ["sensor"], needs: ["meter"] }]);
    expect(byItself("vr-2w")).toEqual([
      { meter: "volts-ac", red: "sig+@part", black: "sig-@part", setup: { key: "crank", open: ["sensor"] }, opens: ["sensor"], needs: ["meter", "helper"] },
    ]);
  });
  it.each(["hall-3w", "thermistor-2w", "oxygen-narrow", "solenoid-2w"])("is no %s, which makes none unplugged", (family) => {
    expect(byItself(family)).toEqual([]);
  });
});
