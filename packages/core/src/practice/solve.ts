import type { Circuit, Diagnosis, FoundBefore, Measurement, Reading, Value } from "@fox-lamp/language";
import { type DiagnosedJob, diagnoseJob, type PossibleMeasurement, possibleMeasurements, type Session } from "../diagnosis";
import type { Random } from "../numeric";
import { measurementOf, type Procedure } from "../procedures";
import type { HiddenCar } from "./car";

/** How the next test is chosen: by the advice, by information alone, by the fixed order of a textbook, or by chance. */
export const STRATEGIES = ["advice", "uncosted", "textbook", "random"] as const;
export type Strategy = (typeof STRATEGIES)[number];

/** How far the true minutes to reach a place lie from what the circuit says, ln minutes. */
const ACCESS_SPREAD = 0.5;

/** How one hidden car is worked on. */
export interface SolveOptions {
  /** Share of readings that are slipped. */
  readonly blunders: number;
  readonly strategy: Strategy;
  /** Whether the technician knows that the fault comes and goes. */
  readonly intermittent: boolean;
  /** Whether the sensed quantities are known from the start; else they are asked for when that helps. */
  readonly stated: boolean;
  /** What was found before on cars of its model. */
  readonly learnt?: readonly FoundBefore[] | undefined;
  /** A clock in milliseconds, for the time an advice takes. */
  readonly clock: () => number;
}

/** How a hidden car was solved. */
export interface Solved {
  /** Id of the hidden fault, or `nothing`; a second one after an ampersand. */
  readonly truth: string;
  readonly severity: number;
  readonly outcome: "right" | "wrong" | "undecided";
  readonly verdict: Diagnosis["verdict"];
  readonly readings: readonly Reading[];
  readonly minutes: number;
  /** Milliseconds of every advice. */
  readonly times: readonly number[];
}

/** Of a test's minutes so many are the work itself, the rest is getting there. */
const WORK_MINUTES = 1;
const MOST_TESTS = 30;
/** Baselines without judgement need more. */
const MOST_TESTS_BASELINE = 80;
export const NOTHING = "nothing";

function slip(measurement: Measurement, value: Value, car: HiddenCar, random: Random): Value {
  if (typeof value !== "number") return value;
  switch (random.below(4)) {
    case 0:
      return measurement.meter === "volts-dc" ? -value : value * 1000;
    case 1:
      return value * (random.uniform() < 0.5 ? 1000 : 0.001);
    case 2:
      return measurement.meter === "volts-dc" ? 0 : value * 0.1;
    default: {
      if (measurement.meter === "ohms") return "OL";
      return car.read({ ...measurement, setup: { ...measurement.setup, key: "off" } });
    }
  }
}

function take(car: HiddenCar, asked: Measurement, id: string, blunders: number, random: Random): Reading {
  const measurement: Measurement = { ...asked, id };
  const shown = car.read(measurement);
  const value = random.uniform() < blunders ? slip(measurement, shown, car, random) : shown;
  return { ...measurement, value };
}

/** The textbook's order: data, feed and ground, signal, unplugged, substitution, resistance, movement, the rest. */
const TEXTBOOK: readonly Procedure["technique"][] = ["T1", "T2", "T4", "T5", "T9", "T12", "T6", "T7", "T14", "T10", "T13", "T8", "look", "T11", "T3", "T15"];

interface Choice {
  readonly measurement: Measurement;
  readonly minutes: number;
}

function choose(strategy: Strategy, diagnosis: Diagnosis, job: DiagnosedJob, car: HiddenCar, random: Random, cache: Session): Choice | null {
  const best = diagnosis.next.find((test) => car.reaches(measurementOf(test)));
  if (best === undefined) return null;
  switch (strategy) {
    case "advice":
    case "uncosted":
      return { measurement: measurementOf(best), minutes: best.minutes };
    case "textbook": {
      const all = possibleMeasurements(job, cache);
      const rank = (technique: Procedure["technique"]): number => TEXTBOOK.indexOf(technique);
      return all.reduce<PossibleMeasurement | null>((kept, one) => (kept === null || rank(one.technique) < rank(kept.technique) ? one : kept), null);
    }
    case "random": {
      const all = possibleMeasurements(job, cache);
      return all[random.below(all.length)] ?? null;
    }
  }
}

/** How often the papers of a car say what is asked. */
const PAPERS = 0.7;

/** The sheets with one figure more, as the papers have it; as they are where they say nothing. */
function withFigure(
  sheets: readonly Circuit[],
  papers: readonly Circuit[],
  { circuit, parameter }: { readonly circuit: string; readonly parameter: string },
  found: boolean,
): Circuit[] {
  const value = papers.find(({ id }) => id === circuit)?.with?.[parameter];
  if (!found || value === undefined) return [...sheets];
  return sheets.map((sheet) => (sheet.id === circuit ? { ...sheet, with: { ...sheet.with, [parameter]: value } } : sheet));
}

/** Works on one hidden car until a verdict, or until nothing useful is left. */
export function solveCar(car: HiddenCar, options: SolveOptions, random: Random, cache: Session): Solved {
  const times: number[] = [];
  const readings: Reading[] = [];
  const repeated = new Set<string>();
  // Reaching a connector takes longer or shorter on this car than anybody wrote down; the advice does not know.
  const slower = Math.exp(ACCESS_SPREAD * random.normal());
  let minutes = 0;
  let circuits = [...car.circuits];
  const lookedUp = new Set<string>();
  const job = (): DiagnosedJob => ({
    circuits,
    readings,
    ...(options.stated ? { conditions: car.stated } : {}),
    ...(options.intermittent ? { intermittent: true } : {}),
    ...(options.learnt === undefined ? {} : { learnt: [...options.learnt] }),
    ...(options.strategy === "uncosted" ? { costless: true } : {}),
  });
  const diagnose = (): Diagnosis => {
    const start = options.clock();
    const diagnosis = diagnoseJob(job(), cache);
    times.push(options.clock() - start);
    return diagnosis;
  };
  let diagnosis = diagnose();
  const most = options.strategy === "advice" ? MOST_TESTS : MOST_TESTS_BASELINE;
  while (readings.length < most) {
    const wanted = [...diagnosis.doubtful, ...(options.strategy === "advice" ? (diagnosis.confirm ?? []) : [])];
    const doubt = options.intermittent ? undefined : wanted.find(({ reading }) => !repeated.has(reading));
    if (doubt) {
      const again = readings.find(({ id }) => id === doubt.reading) as Reading;
      repeated.add(doubt.reading);
      const id = `r${readings.length}`;
      repeated.add(id);
      const { value: _value, ...measurement } = again;
      readings.push({ ...measurement, id, value: car.read(measurement) });
      minutes += 0.7;
    } else {
      const choice = choose(options.strategy, diagnosis, job(), car, random, cache);
      if (choice === null) {
        // With no test left, what the advice asks for is looked up, where there are papers.
        const question = options.strategy === "advice" ? diagnosis.ask?.find(({ circuit, parameter }) => !lookedUp.has(`${circuit} ${parameter}`)) : undefined;
        if (question === undefined) break;
        lookedUp.add(`${question.circuit} ${question.parameter}`);
        minutes += question.minutes;
        circuits = withFigure(circuits, car.actual ?? [], question, random.uniform() < PAPERS);
        diagnosis = diagnose();
        continue;
      }
      readings.push(take(car, choice.measurement, `r${readings.length}`, options.blunders, random));
      minutes += Math.max(0.2, choice.minutes - WORK_MINUTES) * slower + Math.min(choice.minutes, WORK_MINUTES);
    }
    diagnosis = diagnose();
  }
  const hidden = [car.hidden, car.second].flatMap((fault) => (fault === null ? [] : [fault]));
  return {
    truth: hidden.map(({ fault }) => fault.id).join("&") || NOTHING,
    severity: car.hidden?.severity ?? 0,
    outcome: judge(
      diagnosis,
      hidden.map(({ fault }) => fault.unit),
    ),
    verdict: diagnosis.verdict,
    readings,
    minutes,
    times,
  };
}

/** Right when a verdict names a unit that is faulty; of two faults the one that was found counts, the other shows at the check. */
function judge({ verdict }: Diagnosis, truths: readonly string[]): Solved["outcome"] {
  if (verdict.status === "nothing-found") return truths.length === 0 ? "right" : truths.some((truth) => verdict.open.includes(truth)) ? "undecided" : "wrong";
  if (verdict.status !== "proven") return "undecided";
  return truths.some((truth) => verdict.unit === truth || verdict.group.includes(truth)) ? "right" : "wrong";
}
