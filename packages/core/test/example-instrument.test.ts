import { buildModel, type CircuitModel } from "../src/circuit";
import { faultsOf, placeFault } from "../src/faults";
import { columnsOf, type ElectricalProbe, emptyPrediction, probeOf, solveSetup } from "../src/instruments";
import { leadsOf } from "../src/instruments/sensitivities";
import { healthyCircuit } from "../src/procedures/expect";
import { LOADED_OHMS, voltsLoaded } from "./example-instrument";

describe("the example instrument, a voltmeter on its loaded range", () => {
  const model = buildModel([{ id: "x", family: "thermistor-2w" }]);
  const circuit = model.circuits[0] as CircuitModel;
  const probe = probeOf(model, { meter: "volts-dc", red: "sig@sensor", black: "bat-", setup: { open: ["sensor"] } }, "m") as ElectricalProbe;
  const shown = (faults: { id: string; ohms?: number }[]): number => {
    const placed = faults.map((fault) => placeFault(model, faultsOf(model), fault, "f"));
    return voltsLoaded.show({ ...solveSetup(model, probe, placed), scanVolts: null }, probe, null) as number;
  };

  it("pulls a pull-up down by its own divider, and shows a stiff supply as it is", () => {
    const pullup = Number((circuit.circuit.with as { pullup?: number } | undefined)?.pullup ?? 2490);
    expect(shown([])).toBeGreaterThan((4.9 * LOADED_OHMS) / (LOADED_OHMS + 2 * pullup));
    expect(shown([])).toBeLessThan(5);
    expect(shown([{ id: "x/wire:sig/short-battery", ohms: 0.1 }])).toBeGreaterThan(11.5);
  });
  it("finds no strength behind a corroded contact that a usual meter reads nearly full volts through", () => {
    expect(shown([{ id: "x/contact:sig@module/corroded", ohms: 4e5 }])).toBeLessThan(2);
  });
  it("predicts what it shows, and how it moves", () => {
    const columns = columnsOf(model);
    const healthy = healthyCircuit(model, circuit, probe.setup, circuit.built.world.nominal, 0);
    const out = emptyPrediction(columns, probe);
    voltsLoaded.predict(healthy, probe, leadsOf(healthy, probe, columns), columns, out);
    expect(out.mean).toBeCloseTo(shown([]), 6);
    expect(Math.sqrt(out.noise)).toBeLessThan(0.05);
    expect(Math.max(...out.jacobian.map(Math.abs))).toBeGreaterThan(0.01);
  });
  it("puts its own load into a deck", () => {
    expect(voltsLoaded.deck?.(probe, "a", "b").elements).toEqual([{ kind: "resistor", id: "meter", a: "a", b: "b", ohms: LOADED_OHMS }]);
  });
});
