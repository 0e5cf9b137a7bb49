import { type CircuitModel, isShort, type Model, ownerOf } from "../circuit";
import { nodesOf } from "../network";
import { benchOf, type Conditions, type Draft, type Policy, USUAL_POLICY } from "./drafts";
import { bypasses, carTests, movements, resistances, signalLevels, supplies, unplugged } from "./level-tests";
import { busTests, gauges, looks, splits } from "./look-tests";
import { heaterTests, movedWhileRunning, movingSetups, ownVoltages, oxygenTests, rhythms, runningLevels } from "./moving-tests";
import { type Procedure, procedureId } from "./procedure";
import { scopeTests } from "./scope-tests";
import { sweptOhms } from "./swept-ohms";

function finish(circuit: string, draft: Draft): Procedure {
  const { black = null, cautions = [], needs = ["meter"], unit = null, record = false, scope = null, ...rest } = draft;
  const full = { ...rest, black, cautions: [...new Set(cautions)], needs: [...new Set(needs)], unit, record, scope, circuit };
  return { ...full, id: procedureId({ ...full, coupling: scope?.coupling }) };
}

/** Whether the engine's ground carries anything of these circuits. */
function engineMatters(model: Model): boolean {
  if (model.circuits.some(({ family }) => family.traits.kind === "battery")) return true;
  return model.network.elements.some((element) => ownerOf(element.id) !== "car" && !isShort(element.id) && nodesOf(element).includes("engine"));
}

/**
 * Every test a circuit offers: data, feed and ground, unplug and watch, substitution, resistance, movement, stimulus, command,
 * isolation, drops along the path, looks. Generated from pins, roles and places, so a new family has them at once.
 *
 * @param conditions what is known about the sensed quantity; tests carry it as their truth
 */
export function generateTests(model: Model, circuit: CircuitModel, conditions: Conditions = {}, policy: Policy = USUAL_POLICY): Procedure[] {
  const bench = benchOf(circuit, conditions, policy);
  const members = model.circuits.flatMap(({ id, shares }) =>
    shares.filter(({ bus, busPin }) => bus === circuit.id && busPin === "ref").map(({ pin }) => ({ id, pin })),
  );
  const first = model.circuits[0]?.id === circuit.id;
  const drafts = [
    ...(circuit.built.reads.length === 0 && bench.ofRole("signal").length === 0 ? [] : signalLevels(bench)),
    ...rhythms(bench),
    ...ownVoltages(bench),
    ...runningLevels(bench),
    ...oxygenTests(bench),
    ...heaterTests(bench),
    ...scopeTests(bench, movingSetups(bench)),
    ...supplies(bench),
    ...(first || circuit.id === model.carId ? carTests(engineMatters(model)) : []),
    ...unplugged(bench),
    ...bypasses(bench),
    ...resistances(bench),
    ...sweptOhms(model, bench),
    ...movements(bench),
    ...movedWhileRunning(bench),
    ...busTests(bench, members),
    ...splits(bench),
    ...looks(bench),
    ...gauges(bench, conditions),
  ];
  const byId = new Map<string, Procedure>();
  for (const draft of drafts) {
    const procedure = finish(circuit.id, draft);
    if (!byId.has(procedure.id)) byId.set(procedure.id, procedure);
  }
  return [...byId.values()];
}
