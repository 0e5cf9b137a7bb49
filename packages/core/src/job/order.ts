import { type Circuit, type Outcome, type ShopSettings, STAGES, type Stage, unitKindOf } from "@fox-lamp/language";
import type { JobState } from "./state";
import { tasksOf } from "./tasks";

/** One thing the order of work asks for, as a stable name; the words are the interface's. */
export type StepCode =
  | "complaint"
  | "confirmed"
  | "battery"
  | "codes"
  | "data"
  | "circuits"
  | "verdict"
  | "located"
  | "repaired"
  | "tasks"
  | "repeated"
  | "cleared"
  | "driven"
  | "rescanned"
  | "gone"
  | "closed";

export interface Step {
  readonly stage: Stage;
  readonly code: StepCode;
  readonly done: boolean;
  /** Whether the next stage asks for it; others are good practice and said so. */
  readonly needed: boolean;
}

const MOST_REPEATED = 3;

/**
 * The tests to repeat once it is repaired: readings that were outside their window when the verdict was recorded, else those the
 * verdict rests on.
 */
export function failedReadings(state: JobState): JobState["readings"] {
  const listed = (name: string): unknown[] => state.decisions.flatMap((decision) => (Array.isArray(decision[name]) ? (decision[name] as unknown[]) : []));
  const [failed, because] = [listed("failed"), listed("because")];
  const wanted = failed.length > 0 ? failed : because;
  const shown = state.readings.filter(({ reading }) => wanted.includes(reading.id) && reading.meter !== "look" && reading.meter !== "gauge");
  return shown.slice(0, MOST_REPEATED);
}

/** Whether a check was done and its last word was not that it fails. */
function passed(state: JobState, of: (verification: JobState["verifications"][number]) => boolean): boolean {
  const last = state.verifications.filter(of).at(-1);
  return last !== undefined && last.fits !== false;
}

/** The order of work: what is done, what each stage still asks for. @param cleanable whether the part of a family is cleaned before it is replaced */
export function orderOfWork(circuits: readonly Circuit[], state: JobState, settings: ShopSettings | null, cleanable: (family: string) => boolean): Step[] {
  const repeated = failedReadings(state);
  const wiring = state.decisions.some(({ unit }) => typeof unit === "string" && ["wire", "contact", "contacts"].includes(unitKindOf(unit) ?? ""));
  const tasks = tasksOf(circuits, state, settings, cleanable);
  const decided = state.decisions.length > 0;
  const step = (stage: Stage, code: StepCode, done: boolean, needed = true): Step => ({ stage, code, done, needed });
  const again = repeated.every(({ entry }) => passed(state, ({ of }) => of === entry));
  return [
    step("complaint", "complaint", state.complaint !== ""),
    step("complaint", "confirmed", state.confirmation !== null, false),
    step("complaint", "battery", state.battery !== null, false),
    step("codes", "codes", state.codes.length > 0 || state.rescan !== null || STAGES.indexOf(state.stage) > STAGES.indexOf("codes")),
    step("codes", "data", state.recordings.length > 0 || state.readings.some(({ reading }) => reading.meter === "scan"), false),
    step("triage", "circuits", circuits.length > 0),
    step("bench", "verdict", decided),
    ...(wiring
      ? [
          step(
            "repair",
            "located",
            state.located.some(({ way }) => way === "found"),
          ),
        ]
      : []),
    step("repair", "repaired", state.repairs.length > 0),
    ...(tasks.length > 0
      ? [
          step(
            "repair",
            "tasks",
            tasks.every(({ done }) => done),
          ),
        ]
      : []),
    ...(repeated.length > 0 ? [step("check", "repeated", again)] : []),
    ...(state.codes.length > 0 ? [step("check", "cleared", state.cleared !== null)] : []),
    step(
      "check",
      "driven",
      passed(state, ({ check }) => check === "drive"),
    ),
    ...(state.codes.length > 0 ? [step("check", "rescanned", state.cleared !== null && state.rescan !== null && state.rescan.at >= state.cleared.at)] : []),
    step(
      "check",
      "gone",
      passed(state, ({ check }) => check === "complaint"),
    ),
    step("closed", "closed", state.closing !== null),
  ];
}

/** What a job still lacks to be closed with an outcome; empty when it may be. */
export function lackingFor(outcome: Outcome, steps: readonly Step[], words: { readonly text: string; readonly plan: string }): string[] {
  switch (outcome) {
    case "repaired":
      return steps.filter(({ done, needed, stage }) => needed && !done && stage !== "closed").map(({ code }) => code);
    case "not-reproduced":
      return words.plan.trim() === "" ? ["plan"] : [];
    case "elsewhere":
    case "refused":
      return words.text.trim() === "" ? ["text"] : [];
  }
}
