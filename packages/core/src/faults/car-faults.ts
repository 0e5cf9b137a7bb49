import { type Assignment, isShort, type Model, ownerOf, type SeverityScale, weakBattery } from "../circuit";
import { nodesOf } from "../network";
import type { Draft } from "./draft";
import { type Fault, PLAIN_VARIANT } from "./fault";
import type { Hint } from "./hints";
import { priorWeight } from "./priors";

const DIRTY_CHASSIS: SeverityScale = { key: "ohms", low: 0.02, high: 4 };
/** The starter's current makes milliohms of the engine's ground count. */
const DIRTY_ENGINE: SeverityScale = { key: "ohms", low: 0.004, high: 2 };

/** Battery and grounds, under the circuit that owns them. */
export function carFaults(model: Model, hints: readonly Hint[]): Draft[] {
  const { carId } = model;
  const cranked = model.circuits.some(({ family }) => family.traits.kind === "battery");
  const grounded = model.network.elements.some(
    ({ id, ...element }) => ownerOf(id) !== "car" && !isShort(id) && nodesOf({ id, ...element } as (typeof model.network.elements)[number]).includes("engine"),
  );
  const draft = (unit: string, kind: string, title: string, severity: SeverityScale, matters: boolean, effect: Fault["effect"]): Draft => ({
    id: `${carId}/${unit}/${kind}`,
    unit: `${carId}/${unit}`,
    circuit: carId,
    kind,
    title,
    severity,
    weight: (cranked ? 5 : 1) * priorWeight(unit, kind, hints),
    matters,
    variants: [PLAIN_VARIANT],
    during: null,
    constant: false,
    effect,
    scanVolts: null,
    noticedFrom: null,
    hertzFactor: null,
  });
  const ground = (name: "engine" | "chassis", ohms: number): readonly Assignment[] => [{ element: `car/ground:${name}`, field: "ohms", value: ohms }];
  return [
    draft("battery", "weak", "Battery weak", { key: "severity", low: 0.1, high: 1 }, true, (severity, { engine }) => weakBattery(engine.key, severity)),
    draft("ground:chassis", "dirty", "Chassis ground dirty", DIRTY_CHASSIS, true, (ohms) => ground("chassis", ohms)),
    draft("ground:engine", "dirty", "Engine ground dirty", DIRTY_ENGINE, grounded || cranked, (ohms) => ground("engine", ohms)),
  ];
}
