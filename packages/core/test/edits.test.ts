import { applySetup, buildModel, completeSheets, editsOf, FAMILIES, situationOf } from "../src/circuit";
import { type Fault, faultsOf } from "../src/faults";
import { prepareEdits, solveNetwork, withEdits } from "../src/network";
import { generateTests } from "../src/procedures";

/** Node voltages of one and the same network may differ by so much: what a part on the edge of its supply does hangs on where it comes from. */
const LEAST_VOLTS = 0.02;
const EDGES = 2;

function severities({ severity }: Fault): number[] {
  if (severity === null) return [1];
  const { low, high } = severity;
  return severity.key === "ohms" ? [1.01 * low, Math.sqrt(low * high), 0.99 * high] : [low + 0.1 * (high - low), 0.5 * (low + high), high];
}

describe.each(FAMILIES.map(({ id, traits }) => [id, traits.kind] as const))("a faulty %s", (family, kind) => {
  const bare =
    kind === "reference"
      ? [
          { id: "x", family },
          { id: "m", family: "pressure-3w", shares: { ref: "x", join: "S1" } },
        ]
      : [{ id: "x", family }];
  const model = buildModel(completeSheets(bare));
  const faults = faultsOf(model);

  it("reads the same whether its fault is put into a solved network or solved with it from the start", () => {
    const apart: string[] = [];
    let compared = 0;
    for (const circuit of model.circuits) {
      const setups = new Map(generateTests(model, circuit, {}).map(({ setup }) => [JSON.stringify(setup), setup]));
      [...setups].forEach(([name, setup], index) => {
        // Every other one, and all on command: what a driver does there is another network in each of its moments.
        if (index % 2 === 1 && setup.stimulus?.kind !== "command") return;
        const prepared = applySetup(model, setup, circuit.id, "setup", new Map());
        const situation = situationOf(circuit.built.world, setup, circuit.built.world.nominal);
        prepared.moments.forEach(({ values }, moment) => {
          const solver = prepareEdits(solveNetwork(prepared.net, values));
          for (const fault of faults.filter((one) => one.circuit === circuit.id || one.circuit === model.carId)) {
            for (const severity of severities(fault)) {
              const [variant] = fault.variants;
              if (variant === undefined) continue;
              const edits = editsOf(prepared.net, values, fault.circuit, fault.effect(severity, situation, variant, moment));
              const edited = Float64Array.from(solver.apply(edits).volts);
              const { volts } = solveNetwork(prepared.net, withEdits(values, edits));
              compared += 1;
              if (edited.some((volt, node) => Math.abs(volt - (volts[node] ?? 0)) > LEAST_VOLTS)) apart.push(`${fault.id} ${severity} ${name} ${moment}`);
            }
          }
        });
      });
    }
    expect(compared).toBeGreaterThan(5);
    expect(apart.slice(EDGES)).toEqual([]);
  });
});
