import { type Circuit, type LeftOpen, type Outcome, type ShopSettings, STAGES, type Stage, unitKindOf } from "@fox-lamp/language";
import { failedReadings, type StillOutside } from "./after-repair";
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
  | "desired"
  | "closed";

export interface Step {
  readonly stage: Stage;
  readonly code: StepCode;
  readonly done: boolean;
  /** Whether the next stage asks for it; others are good practice and said so. */
  readonly needed: boolean;
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
  // What is fitted before proof is decided; cleaning and mending may come before, and whether they helped is what the check shows.
  const decided = state.decisions.length > 0 || state.repairs.some(({ act }) => act === "cleaned" || act === "repaired");
  const step = (stage: Stage, code: StepCode, done: boolean, needed = true): Step => ({ stage, code, done, needed });
  // Whether it fits is another question: what is still outside is asked about when the job is closed.
  const again = repeated.every(({ entry }) => state.verifications.some(({ of }) => of === entry));
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
    step(
      "check",
      "desired",
      passed(state, ({ check }) => check === "desired"),
      false,
    ),
    step("closed", "closed", state.closing !== null),
  ];
}

/** What somebody says of the end of a job. */
export interface ClosingWords {
  readonly text: string;
  readonly plan: string;
  /** Why it is closed although something is still outside. */
  readonly despite: string;
  readonly left: LeftOpen | null;
}

/** Fewer suspects than these are no open question. */
const LEAST_LEFT = 2;

/** What a job still lacks to be closed with an outcome; empty when it may be. @param outside what is still not as it should be */
export function lackingFor(outcome: Outcome, steps: readonly Step[], { text, plan, despite, left }: ClosingWords, outside: readonly StillOutside[]): string[] {
  switch (outcome) {
    case "repaired": {
      const open = steps.filter(({ done, needed, stage }) => needed && !done && stage !== "closed").map(({ code }) => code);
      return outside.length > 0 && despite.trim() === "" ? [...open, "despite"] : open;
    }
    case "undecided":
      return [...((left?.units.length ?? 0) < LEAST_LEFT ? ["left"] : []), ...(left?.test === undefined && plan.trim() === "" ? ["plan"] : [])];
    case "not-reproduced":
      return plan.trim() === "" ? ["plan"] : [];
    case "elsewhere":
    case "refused":
      return text.trim() === "" ? ["text"] : [];
  }
}
