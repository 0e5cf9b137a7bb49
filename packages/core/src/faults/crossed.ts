import { type AlikePair, type Assignment, type CircuitModel, CONTACT_OHMS, crossElement, elementName, type Model, situationOf } from "../circuit";
import { OPEN_OHMS } from "../network";
import type { Draft } from "./draft";
import { PLAIN_VARIANT } from "./fault";
import type { Hint } from "./hints";
import { priorWeight } from "./priors";

/** Whether a setup leaves a circuit's sensor connector plugged. */
function pluggedIn(open: readonly string[], circuit: string): boolean {
  return !open.includes(`${circuit}:sensor`);
}

/**
 * Two connectors that fit one another, each on the other's sensor. The fault belongs to the circuit that names the other; its
 * severity is where in its normal range the other's quantity lies, from 0 to 1.
 */
function crossed({ first, second, pins }: AlikePair, model: Model, hints: readonly Hint[]): Draft {
  const circuit = (id: string): CircuitModel => model.circuits.find((candidate) => candidate.id === id) as CircuitModel;
  const [own, other] = [circuit(first), circuit(second)];
  const unit = `${first}/connector:sensor`;
  const values = other.built.world.normal.map(({ value }) => value);
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const named = (id: string, assignments: readonly Assignment[]): Assignment[] =>
    assignments.map((assignment) => ({ ...assignment, element: elementName(id, assignment.element) }));
  const way = (from: string, pin: AlikePair["pins"][number][0], to: string, closed: boolean): Assignment[] => [
    { element: elementName(from, `contact:${pin}@sensor`), field: "ohms", value: OPEN_OHMS },
    { element: crossElement(from, pin, to), field: "ohms", value: closed ? CONTACT_OHMS : OPEN_OHMS },
  ];
  return {
    id: `${unit}/swapped:${second}`,
    unit,
    circuit: first,
    kind: `swapped:${second}`,
    title: `Connectors of ${first} and ${second} swapped`,
    severity: { key: "severity", low: 0, high: 1 },
    weight: priorWeight("contact:plug@sensor", "swapped", hints),
    matters: true,
    variants: [PLAIN_VARIANT],
    during: null,
    constant: false,
    scanVolts: null,
    noticedFrom: null,
    hertzFactor: null,
    effect: (severity, situation) => {
      const { setup } = situation;
      const open = setup.open ?? [];
      const there = other.built.drive(situationOf(other.built.world, setup, low + severity * (high - low)));
      const here = own.built.drive(situation);
      return [
        ...named(first, here.moments[0]?.assignments ?? []),
        ...named(second, there.moments[0]?.assignments ?? []),
        ...pins.flatMap(([pin, facing]) => [...way(first, pin, second, pluggedIn(open, first)), ...way(second, facing, first, pluggedIn(open, second))]),
      ];
    },
  };
}

/** The faults of connectors that can be swapped, by the file's `alike`. */
export function crossedFaults(model: Model, hints: readonly Hint[]): Draft[] {
  return model.alike.map((pair) => crossed(pair, model, hints));
}
