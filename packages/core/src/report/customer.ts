import { type Circuit, circuitOfUnit } from "@fox-lamp/language";
import { familyById } from "../circuit";
import type { Proof } from "../diagnosis";
import { condemnedUnits, type JobState, outcomeOf, unitKind } from "../job";

/** One page for the customer, in plain words. */
export interface CustomerReport {
  readonly told: string;
  readonly wrong: readonly string[];
  readonly how: readonly string[];
  readonly done: readonly string[];
  readonly checked: readonly string[];
  readonly besides: readonly string[];
  readonly plan: string | null;
}

/** A circuit's part as a customer knows it: "coolant temperature sensor". */
function partName(unit: string, circuits: readonly Circuit[]): string {
  const circuit = circuits.find(({ id }) => id === circuitOfUnit(unit));
  const kind = familyById(circuit?.family ?? "")?.traits.kind;
  const title = (circuit?.title ?? circuit?.id ?? "").toLowerCase();
  if (title === "") return "engine sensor";
  if (kind === "valve") return title.includes("valve") || title.includes("solenoid") ? title : `${title} valve`;
  if (kind === "reference") return `supply "${circuit?.title ?? circuit?.id ?? ""}" of several sensors`;
  return title.includes("sensor") ? title : `${title} sensor`;
}

/** What was wrong, said so that nobody needs to know a circuit. */
function plainFault(unit: string, circuits: readonly Circuit[]): string {
  const part = partName(unit, circuits);
  switch (unitKind(unit)) {
    case "part":
      return `The ${part} itself was faulty.`;
    case "wire":
      return `A wire to the ${part} was damaged. The part itself was sound and stays in the vehicle.`;
    case "contact":
      return `A plug contact of the ${part} did not connect properly. The part itself was sound and stays in the vehicle.`;
    case "module":
      return `The engine controller, or its plug, no longer served the ${part}. The sensor and its wires were sound.`;
    case "ground":
      return "A ground connection of the vehicle was poor, so that good sensors were read wrongly.";
    case "battery":
      return "The battery was too weak; good sensors were read wrongly because of it.";
    case "outside":
      return `The ${part} tells the truth: what it reports is really so. The cause lies in the engine, not in the electrics.`;
  }
}

function endWords(state: JobState): string[] {
  const { closing } = state;
  const said = closing?.text ? [closing.text] : [];
  switch (outcomeOf(state)) {
    case "elsewhere":
      return ["The repair was made elsewhere.", ...said];
    case "refused":
      return ["The repair was not wanted.", ...said];
    case "not-reproduced":
      return ["The trouble did not show itself here. What was checked was found sound.", ...said];
    case "repaired":
    case null:
      return [];
  }
}

/** How it is known: how much was measured, and the readings that lay outside what is sound. */
function proofWords({ readings }: Proof, taken: number, minutes: number, outside: ReadonlyMap<string, string>): string[] {
  if (taken === 0) return [];
  const time = Math.max(1, Math.round(minutes));
  const counted = `We measured ${taken} ${taken === 1 ? "time" : "times"} in ${time} ${time === 1 ? "minute" : "minutes"} before anything was replaced.`;
  const telling = readings
    .filter(({ id, window }) => window !== "" && outside.has(id))
    .slice(0, 3)
    .map(({ id, read, window }) => `${outside.get(id) ?? id}: ${read}, where a sound circuit shows ${window}.`);
  return [counted, ...telling];
}

/**
 * The customer's page of a job: what was told, what was wrong, how that is known, what was done, what was seen besides.
 * @param proof the proof of where the job stands; null while it is being written
 * @param outside the readings that lay outside their sound window, by id, with what was measured in words
 */
export function customerReport(circuits: readonly Circuit[], state: JobState, proof: Proof | null, outside: ReadonlyMap<string, string>): CustomerReport {
  const decided = state.decisions.at(-1);
  const units = condemnedUnits(state);
  const nothing = decided?.decision === "nothing-found";
  const proven = state.decisions.some(({ decision }) => decision === "proven");
  const wrong =
    units.length > 0 && proven ? units.slice(0, 1).map((unit) => plainFault(unit, circuits)) : nothing ? ["Every test we made found the electrics sound."] : [];
  const minutes = state.readings.reduce((sum, reading) => sum + reading.minutes, 0);
  const battery =
    state.batteryBefore && state.battery?.charged ? [`The battery was weak (${state.batteryBefore.restVolts} V at rest) and was charged or replaced.`] : [];
  return {
    told: state.complaint,
    wrong: [...wrong, ...endWords(state)],
    how: proof === null ? [] : proofWords(proof, state.readings.length, minutes, outside),
    done: [...battery, ...state.repairs.map(({ text }) => text)],
    checked: state.verifications.map(({ text }) => text),
    besides: [
      ...(outcomeOf(state) === "repaired" && state.closing?.text ? [state.closing.text] : []),
      ...state.notes.map(({ text }) => text),
      ...[...state.tasks.values()].filter(({ task, text }) => task.startsWith("contamination") && text).map(({ text }) => text ?? ""),
    ],
    plan: state.closing?.plan ?? null,
  };
}
