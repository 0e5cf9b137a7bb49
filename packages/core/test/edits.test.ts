import { applySetup, buildModel, circuitOf, completeSheets, editsOf, FAMILIES, situationOf } from "../src/circuit";
import { type Fault, faultsOf } from "../src/faults";
import { portOhms, prepareEdits, solveNetwork, withEdits } from "../src/network";
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

describe("two opens on a bus whose plugs are off", () => {
  const model = buildModel(
    completeSheets([
      { id: "bus", family: "reference-bus" },
      { id: "map", family: "pressure-3w", shares: { ref: "bus", join: "S1" } },
      { id: "tps", family: "potentiometer-3w", shares: { ref: "bus", join: "S1" } },
    ]),
  );
  const opens = faultsOf(model).filter(({ kind, during, circuit }) => kind === "open" && during === null && circuit !== model.carId);

  it("leave as many ohms put into the solved network as solved with it from the start", () => {
    const setup = { key: "off", open: ["module", "tps:sensor"] } as const;
    const prepared = applySetup(model, { ...setup, open: [...setup.open] }, "tps", "setup", new Map());
    const [{ values } = { values: prepared.net.values }] = prepared.moments;
    const solver = prepareEdits(solveNetwork(prepared.net, values));
    const editsFor = ({ circuit, effect, variants: [variant] }: Fault) => {
      const { world } = circuitOf(model, circuit, "circuits").built;
      return variant === undefined
        ? []
        : editsOf(prepared.net, values, circuit, effect(1, situationOf(world, prepared.setup ?? {}, world.nominal), variant, 0));
    };
    const apart: string[] = [];
    opens.forEach((one, index) => {
      for (const other of opens.slice(index + 1)) {
        const edits = [...editsFor(one), ...editsFor(other)];
        const edited = solver.apply(edits);
        const anew = solveNetwork(prepared.net, withEdits(values, edits));
        for (const [node, row] of prepared.net.nodeIndex) {
          const [put, wanted] = [portOhms(edited, row, -1), portOhms(anew, row, -1)];
          if (!(Math.abs(put - wanted) <= 1e-3 * Math.abs(wanted) + 1e-6)) apart.push(`${one.id} ${other.id} ${node}: ${put} for ${wanted}`);
        }
      }
    });
    expect(opens.length).toBeGreaterThan(10);
    expect(apart).toEqual([]);
  });
});
