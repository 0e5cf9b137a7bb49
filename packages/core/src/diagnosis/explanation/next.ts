import { type Expect, inSentence, type NextTest } from "@fox-lamp/language";
import { asConverted, scaleOf, wordsOf } from "../../instruments";
import { type Procedure, windowEnds } from "../../procedures";
import { formatPercent, formatQuantity, formatWindow } from "../../units";
import type { RankedPart } from "../decision/standing";
import type { OffPlug } from "../inference/found-off";
import type { CircuitPosterior } from "../posterior/posterior";
import type { Outcomes } from "../value-of-information/outcomes";
import type { RankedTest } from "../value-of-information/rank";
import { testKey } from "../value-of-information/work-done";
import { titleIn } from "./reasons";
import { pushHome } from "./words";

type Outcome = NextTest["outcomes"][number];

/** Outcomes rarer than this are not worth a line. */
const LEAST_OUTCOME = 0.01;

interface Region {
  readonly key: Outcome["key"];
  readonly label: string;
  readonly low: number | null;
  readonly high: number | null;
  readonly word: string | null;
  readonly holds: (column: number) => boolean;
}

/** Value of a bin's middle in the test's own unit, as it would be shown. */
function binValue({ outcomes: { axis }, offered: { probe } }: RankedTest, column: number): number {
  return asConverted(probe, scaleOf(probe).fromScale(0.5 * (axis.edge(column) + axis.edge(column + 1))));
}

function regionsOf(test: RankedTest, wordNames: readonly string[]): Region[] {
  const expect = test.offered.expect();
  const { axis } = test.outcomes;
  const values = Array.from({ length: axis.bins }, (_, column) => binValue(test, column));
  const value = (column: number): number => values[column] ?? Number.NaN;
  const number = (column: number): boolean => column < axis.bins;
  const regions: Region[] = [];
  const { unit } = expect;
  const sound = windowEnds(expect);
  if (axis.bins > 0 && sound !== null) {
    const { low, high } = sound;
    regions.push(
      { key: "low", label: `under ${formatQuantity(low, unit)}`, low: null, high: low, word: null, holds: (column) => number(column) && value(column) < low },
      {
        key: "expected",
        label: formatWindow(low, expect.high, unit),
        low,
        high: expect.high,
        word: null,
        holds: (column) => number(column) && value(column) >= low && value(column) <= high,
      },
    );
    if (expect.high !== null)
      regions.push({
        key: "high",
        label: `over ${formatQuantity(high, unit)}`,
        low: high,
        high: null,
        word: null,
        holds: (column) => number(column) && value(column) > high,
      });
  } else if (axis.bins > 0) {
    regions.push({ key: "low", label: "any number", low: null, high: null, word: null, holds: number });
  }
  wordNames.forEach((word, index) => {
    // Where no end is above, OL is as sound as a number.
    const key = expect.word === word || (word === "OL" && expect.low !== null && expect.high === null) ? "expected" : "word";
    regions.push({ key, label: word, low: null, high: null, word, holds: (column) => column === axis.bins + index });
  });
  return regions;
}

function unitShares(outcomes: Outcomes, holds: (column: number) => boolean): { total: number; units: { unit: number; mass: number }[] } {
  const { width, mass: masses } = outcomes;
  const columns = Int32Array.from(Array.from({ length: width }, (_, column) => column).filter(holds));
  let total = 0;
  const units = outcomes.members.map((unit, row) => {
    let mass = 0;
    for (let at = 0; at < columns.length; at += 1) mass += masses[row * width + columns[at]];
    total += mass;
    return { unit, mass };
  });
  return { total, units: units.sort((a, b) => b.mass - a.mass) };
}

function describe(outcome: Outcome | undefined): string | null {
  if (outcome === undefined) return null;
  const names = outcome.units.slice(0, 2).map(({ title, probability }) => `${inSentence(title)} ${formatPercent(probability)}`);
  return names.length === 0 ? null : names.join(", ");
}

/** What a test is, whatever it would tell. @param minutes what it costs now */
export function askedOf(procedure: Procedure, minutes: number) {
  return {
    test: testKey(procedure.circuit, procedure.id),
    circuit: procedure.circuit,
    title: procedure.title,
    meter: procedure.meter,
    red: procedure.red,
    black: procedure.black,
    setup: procedure.setup,
    ...(procedure.unit === null ? {} : { unit: procedure.unit }),
    ...(procedure.record ? { record: "min-max" as const } : {}),
    ...(procedure.scope === null ? {} : { scope: procedure.scope }),
    minutes,
    ...(procedure.reach.length === 0 ? {} : { wayMinutes: Math.max(0, Number((minutes - procedure.minutes).toFixed(2))) }),
    technique: procedure.technique,
    proves: procedure.proves,
    needs: [...procedure.needs],
    cautions: [...procedure.cautions],
  };
}

/** What a plug that was found off asks for before a test with it in; empty once the circuit has been read since. */
function beforeTest({ circuit, setup }: Procedure, plugs: readonly OffPlug[]): string[] {
  const hanging = plugs.filter((plug) => plug.circuit === circuit && !plug.readSince && !(setup.open ?? []).includes(plug.connector));
  return [...new Set(hanging.map(({ connector }) => `${pushHome(connector)}.`))];
}

/**
 * A ranked test as the language's advice: what to do, what to expect, what each outcome would mean.
 * @param plugs those that were found off
 */
export function nextTestOf(
  posterior: CircuitPosterior,
  test: RankedTest,
  { cause, plugs }: { readonly cause?: RankedPart["cause"]; readonly plugs: readonly OffPlug[] },
): NextTest {
  const { procedure, probe } = test.offered;
  const expect = test.offered.expect();
  const { units } = posterior.inference.grid;
  // What shows the kind of circuit has no outcomes under the kind that was taken.
  const regions = cause === "kind" ? [] : regionsOf(test, wordsOf(probe));
  const outcomes = regions.flatMap((region): Outcome[] => {
    const { total, units: shares } = unitShares(test.outcomes, region.holds);
    if (total < LEAST_OUTCOME && region.key !== "expected") return [];
    return [
      {
        key: region.key,
        label: region.label,
        low: region.low,
        high: region.high,
        word: region.word,
        probability: Math.min(1, total),
        units: shares
          .slice(0, 3)
          .filter(({ mass }) => mass > 0.04 * total)
          .map(({ unit, mass }) => ({
            unit: units[unit],
            title: titleIn(posterior, units[unit]),
            probability: Math.min(1, mass / Math.max(total, 1e-12)),
          })),
      },
    ];
  });
  const first = (key: Outcome["key"]): Outcome | undefined => outcomes.find((outcome) => outcome.key === key);
  return {
    ...askedOf(procedure, test.minutes),
    cautions: [...beforeTest(procedure, plugs), ...procedure.cautions],
    expect: expect satisfies Expect,
    gainBits: Number(test.gainBits.toFixed(4)),
    ...(cause === undefined ? {} : { cause }),
    ...(test.along.length === 0
      ? {}
      : { along: test.along.map(({ offered: { procedure: own } }) => ({ test: testKey(own.circuit, own.id), circuit: own.circuit, title: own.title })) }),
    why: whySentence(outcomes, test, first("expected"), cause),
    ifLow: describe(first("low") ?? first("word")),
    ifExpected: describe(first("expected")),
    ifHigh: describe(first("high")),
    outcomes,
  };
}

function whySentence(outcomes: readonly Outcome[], test: RankedTest, expected: Outcome | undefined, cause: RankedPart["cause"]): string {
  const off = outcomes.filter((outcome) => outcome !== expected && outcome.probability > 0.02).sort((a, b) => b.probability - a.probability)[0];
  const minutes = `${Number(test.minutes.toFixed(1))} min`;
  if (cause === "kind") return `Shows what the sheet leaves out and the verdict hangs on (${minutes}).`;
  if (expected === undefined || off === undefined) return `Settles ${test.gainBits.toFixed(1)} bits in ${minutes}.`;
  const [good, bad] = [describe(expected), describe(off)];
  if (good === null || bad === null) return `Settles ${test.gainBits.toFixed(1)} bits in ${minutes}.`;
  return `${cause === "owed" ? "Owed before the verdict" : "Most settled per minute"} (${minutes}): as expected leaves ${good}; ${off.label} points to ${bad}.`;
}
