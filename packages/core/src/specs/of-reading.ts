import type { Reading, SpecLimit } from "@fox-lamp/language";
import { unitOfReading } from "@fox-lamp/language";
import type { CircuitModel, Model } from "../circuit";
import { expectHealthy, windowEnds } from "../procedures";
import { judgeLimit } from "./limits";
import { windowWords } from "./window";

/** What is to be said of a book's limits that a reading carries. */
export interface LimitNote {
  readonly code: string;
  readonly sentence: string;
}

function asLimit(circuit: CircuitModel, { meter, red, black, setup, limits, unit }: Reading): SpecLimit | null {
  if (limits === undefined) return null;
  const { low, high, source } = limits;
  return {
    vehicle: {},
    family: circuit.family.id,
    meter,
    red,
    ...(black === undefined ? {} : { black }),
    ...(setup === undefined ? {} : { setup }),
    ...(low === undefined ? {} : { low }),
    ...(high === undefined ? {} : { high }),
    unit: unitOfReading({ meter, unit }),
    source: { kind: "document", title: source ?? "book" },
  };
}

function fits(value: number, low: number | null | undefined, high: number | null | undefined): boolean {
  return value >= (low ?? Number.NEGATIVE_INFINITY) && value <= (high ?? Number.POSITIVE_INFINITY);
}

/**
 * What a book's limits come to: why they cannot be, that they count as a value of the sheet, or that the reading passes by one window and fails
 * by the other.
 * @param counts the value of the sheet they count as
 */
export function notesOnLimits(model: Model, circuit: CircuitModel, reading: Reading, counts?: { readonly title: string }): LimitNote[] {
  const limit = asLimit(circuit, reading);
  if (limit === null || limit.unit === "") return [];
  const problems = judgeLimit(model, circuit, limit).problems.filter(({ code }) => code !== "unit" && code !== "unit-of-meter");
  if (problems.length > 0) return problems.map(({ code, reason }) => ({ code, sentence: `These limits cannot be right: ${reason}.` }));
  const { value, limits } = reading;
  const expect = expectHealthy(model, reading, "reading");
  const sound = expect === null ? null : windowEnds(expect);
  if (typeof value !== "number" || limits === undefined || sound === null) return [];
  const [book, computed] = [fits(value, limits.low, limits.high), fits(value, sound.low, sound.high)];
  const counted: LimitNote[] =
    counts === undefined ? [] : [{ code: "counts", sentence: `The book's limits count as this circuit's ${(counts.title.split(",")[0] ?? "").trim()}.` }];
  if (book === computed) return counted;
  const window = windowWords({ ...sound, unit: limit.unit });
  const sentence = book
    ? `It passes by the book and fails by the circuit, which makes ${window}.`
    : counts === undefined
      ? `It fails by the book and passes by the circuit, which makes ${window}: a sound car of other build may read so.`
      : `It fails by the book and passes by the circuit as it is usual, which makes ${window}.`;
  return [{ code: "conflict", sentence }, ...counted];
}
