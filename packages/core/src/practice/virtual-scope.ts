import { BadInput, type ScopeRequest } from "@fox-lamp/language";
import { buildModel } from "../circuit";
import { faultsOf, placeFault } from "../faults";
import { type Random, seededRandom } from "../numeric";
import { traceOf } from "../vehicle";
import { type CarBehindJob, circuitsBehind, faultsLeft } from "./virtual-car";

/** Every capture has noise of its own. */
const NEXT_CAPTURE = 104_729;
/** A fault that comes and goes is looked at in stretches of this length, seconds. */
const SLOT_SECONDS = 0.12;

/** When a fault that is away for a share of the moments is there. */
function thereFor(seconds: number, misses: number, random: Random): { from: number; to: number }[] {
  const slots = Math.ceil(seconds / SLOT_SECONDS);
  return Array.from({ length: slots }, (_, slot) => ({ from: slot * SLOT_SECONDS, to: (slot + 1) * SLOT_SECONDS })).filter(() => random.uniform() >= misses);
}

/**
 * What a scope stores on a job's virtual car, one array a channel, in volts, or in amperes of a clamp.
 *
 * @param call how often the car was read before
 * @throws BadInput for circuits or leads that cannot be
 */
export function scopeVirtualCar(behind: CarBehindJob, request: ScopeRequest, call: number): Float32Array[] {
  const { simulated, state } = behind;
  const model = buildModel(circuitsBehind(behind));
  const circuit = model.circuits.find(({ id }) => id === request.circuit);
  if (circuit === undefined) throw new BadInput({ code: "scope:circuit", where: "circuit", message: `"${request.circuit}" is none of the car's circuits` });
  const known = faultsOf(model);
  const faults = faultsLeft(simulated, state).map((reference, index) => placeFault(model, known, reference, `faults[${index}]`));
  const seed = simulated.seed + NEXT_CAPTURE * call;
  const misses = simulated.misses ?? 0;
  const during = simulated.scope?.during ?? (misses > 0 ? thereFor(request.seconds, misses, seededRandom(seed)) : undefined);
  const { channels, seconds, rate, bits, range, setup } = request;
  const trace = traceOf(model, circuit, setup, faults, {
    channels,
    seconds,
    rate,
    seed,
    bits,
    range,
    during,
    brokenTeeth: state.repairs.length > 0 ? undefined : simulated.scope?.brokenTeeth,
    seized: state.repairs.length > 0 ? undefined : simulated.scope?.seized,
  });
  return trace.channels.map(({ samples }) => Float32Array.from(samples));
}
