import type { Assignment, CircuitModel, PinPath } from "../circuit";
import type { Draft } from "./draft";
import { PLAIN_VARIANT } from "./fault";
import type { Hint } from "./hints";
import { type Notice, noticedOhms } from "./notice";
import { priorWeight } from "./priors";
import { isUnplugged } from "./unplugged";

/** Water and green between two terminals: from what a puddle of road salt leads to what is left when it dries. */
const BRIDGE_OHMS = { low: 1000, high: 3e5 } as const;

/** Whether a pin goes through the sensor's own plug. */
function inPlug(path: PinPath | undefined): path is PinPath {
  return path?.places.has("part") === true && path.steps.some((step) => step.kind === "contact" && step.place === "sensor");
}

/**
 * A signal's terminal that leaks to its neighbour in the sensor's plug, while it is plugged: pulled apart it runs out, and both the bare sensor and the
 * line measure well. What stays wet on one side is a leak of that side, the wire's or the sensor's.
 */
export function bridgedFaults({
  circuit,
  notice,
  hints,
}: {
  readonly circuit: CircuitModel;
  readonly notice: Notice;
  readonly hints: readonly Hint[];
}): Draft[] {
  const { paths } = circuit;
  return paths.flatMap((first, index): Draft[] => {
    const second = paths[index + 1];
    if (!inPlug(first) || !inPlug(second)) return [];
    const [path, other] = first.role === "signal" ? [first, second] : [second, first];
    if (path.role !== "signal") return [];
    const leak = (ohms: number): readonly Assignment[] => [{ element: `short:${first.pin}:${second.pin}#0`, field: "ohms", value: ohms }];
    const range = noticedOhms(notice, BRIDGE_OHMS, false, (ohms) => () => leak(ohms));
    if (range === null) return [];
    const unit = `${circuit.id}/contact:${path.pin}@sensor`;
    return [
      {
        id: `${unit}/bridged:${other.pin}`,
        unit,
        circuit: circuit.id,
        kind: `bridged:${other.pin}`,
        title: `${path.pin} and ${other.pin} terminals bridged in the sensor's plug`,
        severity: { key: "ohms", ...range },
        noticedFrom: null,
        weight: priorWeight(`contact:${path.pin}@sensor`, "bridged", hints),
        matters: true,
        variants: [PLAIN_VARIANT],
        during: null,
        constant: false,
        scanVolts: null,
        hertzFactor: null,
        effect: (ohms, { setup }) => (isUnplugged(setup, circuit.id) ? [] : leak(ohms)),
      },
    ];
  });
}
