import type { Circuit } from "@fox-lamp/language";
import { buildModel } from "../circuit";
import { faultsOf, placeFault } from "../faults";
import { simulateReading } from "../instruments";
import { USUAL_POLICY } from "./drafts";
import { expectHealthy } from "./expect";
import { generateTests } from "./generate";
import { measurementOf, type Procedure } from "./procedure";

function sweptIn(circuit: Circuit, policy = USUAL_POLICY): Procedure[] {
  const model = buildModel([circuit]);
  const [built] = model.circuits;
  if (built === undefined) throw new Error("a model has its circuit");
  return generateTests(model, built, {}, policy).filter(({ meter, setup }) => meter === "ohms" && setup.stimulus?.kind === "sweep");
}

describe("an ohmmeter on a track that is swept", () => {
  it("is on the wiper of every track, at the stop where it reads most", () => {
    const [single] = sweptIn({ id: "tps", family: "potentiometer-3w" });
    expect(single).toMatchObject({ red: "sig@part", black: "gnd@part", setup: { key: "off", open: ["sensor"], truth: { position: 100 } } });
    const opposed = sweptIn({ id: "app", family: "dual-track", with: { opposed: true } });
    expect(opposed.map(({ red, setup }) => [red, setup.truth?.position])).toEqual([
      ["sig1@part", 100],
      ["sig2@part", 0],
    ]);
  });

  it("is not offered where nothing wears, nor by a shop that measures no ohms", () => {
    expect(sweptIn({ id: "ect", family: "thermistor-2w" })).toEqual([]);
    expect(sweptIn({ id: "tps", family: "potentiometer-3w" }, { ...USUAL_POLICY, resistance: false })).toEqual([]);
  });

  it("reads a sound track inside its window, and a worn spot far above it", () => {
    const circuit: Circuit = { id: "tps", family: "potentiometer-3w", with: { track: 5000 } };
    const model = buildModel([circuit]);
    const [test] = sweptIn(circuit);
    if (test === undefined) throw new Error("the track is swept");
    const measurement = measurementOf(test);
    const { high } = expectHealthy(model, measurement, "test") ?? { high: null };
    expect(simulateReading(model, measurement, [], "test")).toBeLessThan(high ?? 0);
    const worn = placeFault(model, faultsOf(model), { id: "tps/sensor/noisy", ohms: 50_000 }, "fault");
    expect(simulateReading(model, measurement, [worn], "test")).toBeGreaterThan(5 * (high ?? Number.POSITIVE_INFINITY));
  });
});

describe("the window of a track that is swept", () => {
  it("goes from the ohms at one stop to those at the other, recorded or not", () => {
    const model = buildModel([{ id: "tps", family: "potentiometer-3w", with: { track: 5000 } }]);
    const setup = { key: "off" as const, open: ["sensor"], stimulus: { kind: "sweep" as const } };
    const asked = { circuit: "tps", meter: "ohms" as const, red: "sig@part", black: "gnd@part", setup };
    for (const measurement of [asked, { ...asked, record: "min-max" as const }]) {
      const window = expectHealthy(model, measurement, "test");
      expect(window).toMatchObject({ unit: "ohm" });
      // A wiper near its ground and near its reference, on a track of 5 kilo-ohm.
      expect(window?.low).toBeLessThan(700);
      expect(window?.low).toBeGreaterThan(100);
      expect(window?.high).toBeGreaterThan(4400);
      expect(window?.high).toBeLessThan(8000);
    }
  });
});
