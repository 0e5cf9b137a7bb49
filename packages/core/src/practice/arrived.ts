import type { Measurement } from "@fox-lamp/language";
import type { Model } from "../circuit";
import type { PlacedFault } from "../faults";
import { blownFuses, probeOf, solveSetup } from "../instruments";
import { OPEN_OHMS } from "../network";

/**
 * A fault as its car came in with it: the engine ran on the way, and a fuse that blew then stays blown, whatever is done on the bench.
 * @param others what else is true of the car, such as its battery
 */
export function asItArrived(model: Model, hidden: PlacedFault, others: readonly PlacedFault[]): PlacedFault {
  const { fault } = hidden;
  if (!model.circuits.some(({ id }) => id === fault.circuit)) return hidden;
  const running: Measurement = { circuit: fault.circuit, meter: "volts-dc", red: "bat+", black: "bat-", setup: { key: "idle" } };
  const probe = probeOf(model, running, "measurement");
  if (probe === null) return hidden;
  const { moments, prepared } = solveSetup(model, probe, [...others, hidden]);
  const blown = blownFuses(moments).map((fuse) => prepared.net.elements[fuse]?.id.slice(fault.circuit.length + 1) ?? "");
  if (blown.length === 0) return hidden;
  const opened = blown.map((element) => ({ element, field: "ohms" as const, value: OPEN_OHMS }));
  return { ...hidden, fault: { ...fault, effect: (...of) => [...fault.effect(...of), ...opened] } };
}
