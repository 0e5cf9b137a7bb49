import { readdirSync, readFileSync } from "node:fs";
import { jobSchema, type Reading, type Value, type VERDICT_STATUSES } from "@fox-lamp/language";
import { buildModel } from "../src/circuit";
import { diagnoseJob, Session } from "../src/diagnosis";
import { expectHealthy } from "../src/procedures";

/** Readings as they are met on cars, with what a competent technician concludes: written from circuits and ordinary tolerances alone. */
interface FieldCase {
  readonly why: string;
  readonly job: unknown;
  /** Accepted leading units, the declared one when proven; null: nothing is proven. */
  readonly want: readonly (string | null)[];
  readonly status: readonly (typeof VERDICT_STATUSES)[number][];
  /** Units that must not be declared. */
  readonly never: readonly string[];
  /** Readings that are normal. */
  readonly sound: readonly string[];
  readonly doubt?: string;
  /** Lists of units, one of each of which must be declared. */
  readonly each?: readonly (readonly string[])[];
}

const FOLDER = new URL("cases/", `file://${__filename}`);
const NAMES = readdirSync(FOLDER)
  .filter((name) => name.endsWith(".json"))
  .map((name) => name.replace(/\.json$/u, ""));
const read = (name: string): FieldCase => JSON.parse(readFileSync(new URL(`${name}.json`, FOLDER), "utf8")) as FieldCase;
const session = new Session();

/** Whether a value lies in a window: a recording by its ends or by its spread. */
function inside(value: Value, low: number, high: number): boolean {
  const within = (number: number): boolean => number >= low && number <= high;
  if (typeof value === "number") return within(value);
  return typeof value === "object" && (within(value.max - value.min) || (within(value.min) && within(value.max)));
}

describe.each(NAMES)("%s", (name) => {
  const { job: file, want, status, never, sound, doubt, each = [] } = read(name);
  const job = jobSchema.parse(file);
  const readings = job.readings ?? [];
  const byId = (id: string): Reading => readings.find((reading) => reading.id === id) as Reading;

  it("is concluded as a technician would", () => {
    const { verdict, verdicts = [], units, doubtful } = diagnoseJob(job, session);
    const proven = verdict.status === "proven";
    const declared = [...(proven ? [verdict] : []), ...verdicts].flatMap(({ unit, group, also }) => [unit, ...group, also?.unit]);
    const leads = proven ? verdict.unit : (units[0]?.unit ?? null);
    expect(status).toContain(verdict.status);
    if (!(want.includes(null) && !proven)) expect(want).toContain(leads);
    for (const unit of never) expect(declared).not.toContain(unit);
    for (const list of each) expect(list.some((unit) => declared.includes(unit))).toBe(true);
    const doubted = doubtful.map(({ reading }) => reading);
    for (const id of sound) expect(doubted).not.toContain(id);
    if (doubt !== undefined) expect(doubted).toContain(doubt);
    // Nobody is cleared and open at once.
    for (const { unit, group, open, also, refuted, untested = [] } of [verdict, ...verdicts]) {
      const cleared = [...refuted.map((one) => one.unit), ...untested];
      for (const one of [unit, ...group, ...open, also?.unit]) expect(cleared).not.toContain(one);
    }
  });

  it("has its sound readings in their windows", () => {
    const model = buildModel(job.circuits);
    for (const id of sound) {
      const { value, ...measurement } = byId(id);
      const expected = measurement.meter === "look" ? null : expectHealthy(model, measurement, id);
      if (expected === null) continue;
      const { low, high, word } = expected;
      if (word === undefined || typeof value !== "string") {
        const open = word === "OL" || (word === undefined && low !== null && high === null);
        const numeric = value === "OL" ? open : word === "counts" ? (value as number) > 0 : inside(value, low ?? -Infinity, high ?? Infinity);
        expect([id, numeric]).toEqual([id, true]);
      } else expect([id, value]).toEqual([id, word]);
    }
  });
});
