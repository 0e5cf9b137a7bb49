import { type Circuit, circuitOfUnit, unitKindOf } from "@fox-lamp/language";
import { familyById } from "../circuit";
import type { Proof } from "../diagnosis";
import { codesAfter, type JobState, judgeBattery, outcomeOf, provenUnits, unitKind } from "../job";
import { formatPercent } from "../units";

/** One page for the customer, in plain words. Nothing stands here that the record does not say. */
export interface CustomerReport {
  readonly told: readonly string[];
  readonly wrong: readonly string[];
  readonly how: readonly string[];
  readonly done: readonly string[];
  readonly checked: readonly string[];
  readonly besides: readonly string[];
  readonly advised: readonly string[];
  readonly plan: string | null;
}

/** A reading as the customer's page names it, and whether it lay outside what is sound. */
export interface ToldReading {
  readonly title: string;
  readonly outside: boolean;
}

/** A circuit's part as a customer knows it: "coolant temperature sensor". */
function partName(unit: string, circuits: readonly Circuit[]): string {
  const circuit = circuits.find(({ id }) => id === circuitOfUnit(unit));
  const kind = familyById(circuit?.family ?? "")?.traits.kind;
  const title = (circuit?.title ?? circuit?.id ?? "").toLowerCase();
  if (title === "") return "engine sensor";
  if (kind === "valve") return title.includes("valve") || title.includes("solenoid") ? title : `${title} valve`;
  if (kind === "reference") return `supply "${circuit?.title ?? circuit?.id ?? ""}" of several sensors`;
  return title.includes("sensor") || title.includes("switch") ? title : `${title} sensor`;
}

/** Whether a repair fitted a new part in a circuit. */
function isFitted(circuit: string, { repairs }: JobState): boolean {
  return repairs.some(({ unit, part }) => part !== undefined && unit !== undefined && circuitOfUnit(unit) === circuit && unitKind(unit) === "part");
}

/** That the part itself stays, where it does; that it is sound only where readings show it. */
function ofThePart(unit: string, state: JobState, proof: Proof | null): string {
  const circuit = circuitOfUnit(unit);
  if (isFitted(circuit, state)) return "";
  const sound = (proof?.cleared ?? []).some((cleared) => circuitOfUnit(cleared.unit) === circuit && unitKind(cleared.unit) === "part");
  return sound ? " The part itself was sound and stays in the vehicle." : " The part itself stays in the vehicle.";
}

/** What was wrong, said so that nobody needs to know a circuit. */
function plainFault(unit: string, circuits: readonly Circuit[], state: JobState, proof: Proof | null): string {
  const part = partName(unit, circuits);
  switch (unitKind(unit)) {
    case "part":
      return unitKindOf(unit) === "heater" ? `The heater inside the ${part} was faulty.` : `The ${part} itself was faulty.`;
    case "wire":
      return `A wire to the ${part} was damaged.${ofThePart(unit, state, proof)}`;
    case "contact":
      return `A plug contact of the ${part} did not connect properly.${ofThePart(unit, state, proof)}`;
    case "module":
      return `The engine controller, or its plug, no longer served the ${part}.`;
    case "ground":
      return "A ground connection of the vehicle was poor, so that good sensors were read wrongly.";
    case "battery":
      return "The battery was too weak; good sensors were read wrongly because of it.";
    case "outside":
      return `The ${part} tells the truth: what it reports is really so. The cause lies in the engine, not in the electrics.`;
  }
}

/** Units that were proven together cannot be told apart by measuring: it is one of them, and the page says so. */
function faultOf(units: readonly string[], circuits: readonly Circuit[], state: JobState, proof: Proof | null): string {
  const said = [...new Set(units.map((unit) => plainFault(unit, circuits, state, proof)))];
  return said.length === 1 ? (said[0] ?? "") : `One of these, which measuring cannot tell apart: ${said.join(" Or: ")}`;
}

function endWords(state: JobState, circuits: readonly Circuit[], anyOutside: boolean): string[] {
  const { closing } = state;
  const said = closing?.text ? [closing.text] : [];
  switch (outcomeOf(state)) {
    case "elsewhere":
      return ["The repair was made elsewhere.", ...said];
    case "refused":
      return ["The repair was not wanted.", ...said];
    case "not-reproduced":
      return [
        "The trouble did not show itself here.",
        ...(state.readings.length > 0 && !anyOutside ? ["Everything we measured was as it should be."] : []),
        ...said,
      ];
    case "undecided":
      return [...undecidedWords(state, circuits), ...said];
    case "repaired":
    case null:
      return [];
  }
}

/** What was left undecided: the causes that are still possible, likeliest first, with their odds. */
function undecidedWords({ closing }: JobState, circuits: readonly Circuit[]): string[] {
  const units = [...(closing?.left?.units ?? [])].sort((a, b) => b.probability - a.probability);
  if (units.length === 0) return ["What we measured does not settle the cause yet."];
  const causes = units.map(({ unit, probability }) => `${placeOf(unit, circuits)} (${formatPercent(probability)})`);
  return [`What we measured does not settle the cause yet. It can be ${causes.join(" or ")}.`];
}

/** A unit as a customer knows it, inside a sentence. */
function placeOf(unit: string, circuits: readonly Circuit[]): string {
  const part = partName(unit, circuits);
  switch (unitKind(unit)) {
    case "part":
      return `the ${part} itself`;
    case "wire":
      return `a wire to the ${part}`;
    case "contact":
      return `a plug contact of the ${part}`;
    case "module":
      return `the engine controller at the ${part}`;
    case "ground":
      return "a ground connection of the vehicle";
    case "battery":
      return "the battery";
    case "outside":
      return `the engine, where the ${part} tells the truth`;
  }
}

/** Readings of a proof that are told: those that show the fault first. */
const MOST_TOLD = 4;

/** How often was measured, and whether before or after something was replaced. */
function countWords({ readings, repairs }: JobState): string[] {
  const times = (count: number): string => `${count} ${count === 1 ? "time" : "times"}`;
  if (readings.length === 0) return [];
  const [first] = repairs
    .filter(({ part }) => part !== undefined)
    .map(({ at }) => at)
    .sort();
  if (first === undefined) return [`We measured ${times(readings.length)}.`];
  const before = readings.filter(({ at }) => at < first).length;
  if (before === readings.length) return [`We measured ${times(before)} before anything was replaced.`];
  if (before === 0) return [`We measured ${times(readings.length)}, after something had been replaced.`];
  return [`We measured ${times(readings.length)}, ${before} of them before anything was replaced.`];
}

/** The readings a verdict rests on: what was read, and what a sound circuit shows. */
function proofWords(state: JobState, proof: Proof | null, told: ReadonlyMap<string, ToldReading>): string[] {
  if (proof === null) return [];
  const named = state.decisions
    .filter(({ decision }) => decision === "proven" || decision === "nothing-found")
    .flatMap(({ because }) => (Array.isArray(because) ? because.filter((id): id is string => typeof id === "string") : []));
  const shown = proof.readings.filter(({ id, window }) => window !== "" && named.includes(id) && told.has(id));
  const outside = ({ id }: { id: string }): boolean => told.get(id)?.outside === true;
  return [...shown.filter(outside), ...shown.filter((reading) => !outside(reading))]
    .slice(0, MOST_TOLD)
    .map((reading) =>
      outside(reading)
        ? `${told.get(reading.id)?.title ?? ""}: ${reading.read}, where a sound circuit shows ${reading.window}.`
        : `${told.get(reading.id)?.title ?? ""}: ${reading.read}, as it should be.`,
    );
}

/** Parts that were replaced on somebody's word before anything was proven. */
function beforeProof(circuits: readonly Circuit[], state: JobState): string[] {
  const units = state.decisions.filter(({ decision, unit }) => decision === "override" && typeof unit === "string").map(({ unit }) => unit ?? "");
  const fitted = [...new Set(units)].filter((unit) => state.repairs.some((repair) => repair.unit === unit && repair.part !== undefined));
  return fitted.map((unit) => `The ${partName(unit, circuits)} was replaced before it was proven to be the cause.`);
}

/** What a weak battery was found to be, and what was done about it. */
function batteryWords({ battery, batteryBefore }: JobState): { readonly done: string[]; readonly advised: string[] } {
  const figures = ({ restVolts, crankingVolts }: NonNullable<JobState["battery"]>): string =>
    `${restVolts} V at rest${crankingVolts === undefined ? "" : `, ${crankingVolts} V while cranking`}`;
  const done = battery?.charged === true ? [`The battery (${figures(batteryBefore ?? battery)}) was charged or replaced.`] : [];
  if (battery === null || judgeBattery(battery).fit) return { done, advised: [] };
  const what = judgeBattery(battery).worn ? "is worn out and should be replaced" : "is weak and should be charged and tested";
  return { done, advised: [`The battery ${what}: ${figures(battery)}.`] };
}

/** What became of the codes after the work. */
function codeWords(state: JobState): string[] {
  const { asked, gone, stayed, foreseen, fresh } = codesAfter(state);
  if (!asked) return [];
  const one = (codes: readonly string[], single: string, several: string): string => `${codes.join(", ")} ${codes.length === 1 ? single : several}`;
  return [
    ...(gone.length > 0 ? [`Fault codes: ${one(gone, "did not come back", "did not come back")}.`] : []),
    ...(stayed.length > 0
      ? [`Fault codes: ${one(stayed, "stayed", "stayed")}${foreseen.length === stayed.length ? ", as we expected: another cause" : ""}.`]
      : []),
    ...(fresh.length > 0 ? [`Fault codes: ${one(fresh, "is new", "are new")}.`] : []),
  ];
}

/** That not everything is as it should be, and why the job was closed all the same. */
function despiteWords({ closing }: JobState): string[] {
  return closing?.despite === undefined ? [] : [`Not everything is as it should be yet: ${closing.despite}`];
}

/**
 * The customer's page of a job: what was told, what was wrong, how that is known, what was done, what was seen besides.
 * @param proof the proof of where the job stands; null while it is being written
 * @param told the job's readings by id: what was measured in words, with its circuit, and whether it lay outside what is sound
 */
export function customerReport(circuits: readonly Circuit[], state: JobState, proof: Proof | null, told: ReadonlyMap<string, ToldReading>): CustomerReport {
  const proven = provenUnits(state);
  const sound = proven.length === 0 && state.decisions.at(-1)?.decision === "nothing-found";
  const anyOutside = [...told.values()].some(({ outside }) => outside);
  const battery = batteryWords(state);
  const tasks = [...state.tasks.values()].filter(({ task, text }) => task.startsWith("contamination") && text).map(({ text }) => text ?? "");
  return {
    told: [
      ...(state.complaint === "" ? [] : [state.complaint]),
      ...(state.when ? [`When it happens: ${state.when}`] : []),
      ...(state.previous ? [`Done to it before: ${state.previous}`] : []),
    ],
    wrong: [
      ...proven.map((units) => faultOf(units, circuits, state, proof)),
      ...(sound ? [anyOutside ? "No fault was found in the electrics." : "Every test we made found the electrics sound."] : []),
      ...endWords(state, circuits, anyOutside),
    ],
    how: [...countWords(state), ...proofWords(state, proof, told), ...beforeProof(circuits, state)],
    done: [...battery.done, ...state.repairs.map(({ text }) => text)],
    checked: [...state.verifications.map(({ text }) => text), ...codeWords(state), ...despiteWords(state)],
    besides: [
      ...(outcomeOf(state) === "repaired" && state.closing?.text ? [state.closing.text] : []),
      ...state.notes.filter(({ customer }) => customer === true).map(({ text }) => text),
      ...tasks,
    ],
    advised: battery.advised,
    plan:
      [state.closing?.left?.test === undefined ? "" : `The test that settles it: ${state.closing.left.test.title}.`, state.closing?.plan ?? ""]
        .filter(Boolean)
        .join(" ") || null,
  };
}
