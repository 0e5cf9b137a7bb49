import type { Circuit, Symptom } from "@fox-lamp/language";
import { isSubject, type SubjectKey } from "../codes";

/** What an engine can do that somebody notices: the symptoms of the language, and that it does not start or stalls. */
export type Noticed = Symptom | "does-not-start" | "stalls";

/**
 * What the loss of a circuit's signal does, by what the circuit is for; usual strategies of modules, which differ: it says where such a symptom
 * can come from and weighs nothing.
 */
const LOSS: Readonly<Partial<Record<SubjectKey, readonly Noticed[]>>> = {
  crank: ["does-not-start", "stalls", "long-cranking"],
  cam: ["long-cranking", "does-not-start", "limp-mode", "no-power"],
  coolant: ["hard-cold-start", "fans-always", "rough-idle"],
  "intake-air": ["hard-cold-start", "surges"],
  "air-flow": ["stalls", "surges", "no-power", "rough-idle"],
  manifold: ["surges", "no-power", "rough-idle"],
  throttle: ["limp-mode", "surges", "no-power"],
  pedal: ["limp-mode", "no-power"],
  rail: ["does-not-start", "long-cranking", "limp-mode", "no-power"],
  egr: ["rough-idle", "stalls"],
  oxygen: ["surges", "rough-idle"],
  knock: ["no-power", "pings"],
  purge: ["rough-idle"],
  phaser: ["rough-idle", "no-power"],
  runner: ["no-power"],
  idle: ["stalls", "rough-idle"],
  reference: ["does-not-start", "limp-mode", "no-power", "surges"],
};

/** A symptom of the engine with the circuits of a job whose loss does that. */
export interface SymptomCauses {
  readonly symptom: Noticed;
  readonly circuits: readonly string[];
}

/** What the loss of a circuit would do; empty where it is not known. */
export function lossOf(circuit: Pick<Circuit, "id" | "title" | "family">): readonly Noticed[] {
  const subject = (Object.keys(LOSS) as SubjectKey[]).find((key) => isSubject(circuit, key));
  return subject === undefined ? [] : (LOSS[subject] ?? []);
}

/** For each symptom, the circuits whose loss would do that. */
export function symptomCauses(circuits: readonly Circuit[], symptoms: readonly Noticed[]): SymptomCauses[] {
  return symptoms.map((symptom) => ({ symptom, circuits: circuits.filter((circuit) => lossOf(circuit).includes(symptom)).map(({ id }) => id) }));
}
