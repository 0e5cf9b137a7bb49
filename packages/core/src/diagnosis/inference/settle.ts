import { BadInput, type Circuit, type Reading } from "@fox-lamp/language";
import { alternativesOf, buildModel, circuitOf, fixedWorld, type MeantCircuit, type Model, shownParts, type WorldValue } from "../../circuit";
import { type Columns, columnsOf, converterEnds, predictionSigma, probeOf, scaleOf, wordsOf } from "../../instruments";
import { logNormalDensity } from "../../numeric";
import { predictHealthy } from "../../procedures";
import { circuitsIn } from "../hypotheses/joined";
import { cutOff } from "../likelihood/cut-off";
import { type SpeakingReading, speaking } from "./observe";

/** A reading is taken to speak of a sound circuit this often: the rest may be a fault, and says nothing of what the sheet means. */
const SPEAKS = 0.8;

/** The circuits that count for what a sheet means: itself, and all it may share a wire with. */
function besides(circuit: Circuit, all: readonly Circuit[]): Circuit[] {
  return circuit.shares === undefined ? [circuit] : all.map((one) => (one.id === circuit.id ? circuit : one));
}

/** What each of a sheet's readings says of one meaning of it, kept from one question to the next: a reading more says nothing new of the others. */
export interface Meaning {
  readonly model: Model;
  readonly columns: Columns;
  /** By what was read where: log density for a known quantity, or one for every usual value of it. */
  readonly said: Map<string, number | readonly number[]>;
}

/** Finds a meaning again by its name, or makes it. */
export type Meanings = (name: string, make: () => Meaning) => Meaning;

const FORGETFUL: Meanings = (_name, make) => make();

/** What one thing that was read says of a sound circuit. */
function densitiesOf({ model, columns }: Meaning, { probe, value }: SpeakingReading, normal: readonly WorldValue[]): number | readonly number[] | null {
  if (probe.kind !== "electrical" || typeof value === "object" || scaleOf(probe).axis === "none") return null;
  const scale = scaleOf(probe);
  const word = typeof value === "string" ? wordsOf(probe).indexOf(value) : -1;
  // Of words only what an ohmmeter shows of a part speaks of its kind: some are open when they are sound.
  if (typeof value === "string" && (probe.meter !== "ohms" || word < 0)) return null;
  const number = typeof value === "number" ? scale.toScale(value) : 0;
  const densityAt = (at: number, spread: number): number => {
    const prediction = predictHealthy(model, probe, columns, at, spread);
    if (word >= 0) return Math.log(SPEAKS * (prediction.words[word] ?? 0) + (1 - SPEAKS) / prediction.words.length);
    const words = prediction.words.reduce((sum, share) => sum + share, 0);
    const variance = predictionSigma(prediction) ** 2;
    const ends = probe.atEnd === true ? converterEnds(probe) : null;
    const fits = ends === null ? logNormalDensity(number, prediction.mean, variance) : cutOff(ends, number, prediction.mean, variance).log;
    const density = Math.max(0, 1 - words) * Math.exp(fits);
    return Math.log(SPEAKS * density + (1 - SPEAKS) * scale.broad);
  };
  const fixed = fixedWorld(probe.circuit.built.world, probe.setup);
  return fixed === null ? normal.map((usual) => densityAt(usual.value, usual.spread)) : densityAt(fixed.value, fixed.spread);
}

/** log P(readings | the sheet means this), each reading for itself, one that fits no sound circuit counting for nothing. */
function speaksFor(meant: Circuit, all: readonly Circuit[], readings: readonly Reading[], meanings: Meanings): number {
  const own = besides(meant, all);
  const others = meant.shares === undefined ? all.flatMap(({ id }) => (id === meant.id ? [] : [id])) : [];
  const meaning = meanings(JSON.stringify([meant.id, own, others]), () => {
    const model = buildModel(own, "circuits", { others });
    return { model, columns: columnsOf(model), said: new Map() };
  });
  const { model } = meaning;
  const named = readings.map((reading, index) => ({ reading, id: `${index}`, where: `readings[${index}]` }));
  let missing = false;
  const ids = new Set(own.map(({ id }) => id));
  const probeIn = (reading: Reading, where: string) => {
    if ([...circuitsIn(reading.circuit ?? meant.id, reading)].some((id) => !ids.has(id))) return null;
    try {
      return probeOf(model, reading, where);
    } catch (error) {
      if (!(error instanceof BadInput)) throw error;
      // Somebody had a lead on a place this kind of circuit does not have: it is another kind.
      if (error.problem.code === "point:no-place" && (reading.circuit ?? meant.id) === meant.id) missing = true;
      return null;
    }
  };
  const { world } = circuitOf(model, meant.id, "circuits").built;
  const logs = world.normal.map(({ weight }) => Math.log(weight));
  const alike = world.normal.reduce((sum, { weight }) => sum + weight, 0);
  let sure = -Math.log(alike);
  const said = speaking(named, probeIn);
  if (missing) return Number.NEGATIVE_INFINITY;
  for (const one of said) {
    const key = `${one.key} ${JSON.stringify(one.value)}`;
    const density = meaning.said.get(key) ?? densitiesOf(meaning, one, world.normal);
    if (density === null) continue;
    meaning.said.set(key, density);
    // Readings in which nothing fixes the sensed quantity have the same one.
    if (typeof density === "number") sure += density;
    else
      density.forEach((log, index) => {
        logs[index] = (logs[index] ?? 0) + log;
      });
  }
  const top = Math.max(...logs);
  return sure + top + Math.log(logs.reduce((sum, log) => sum + Math.exp(log - top), 0));
}

/** The alternatives of a circuit with their weights after its readings; sums to one. */
function weighedAlternatives(list: readonly MeantCircuit[], all: readonly Circuit[], readings: readonly Reading[], meanings: Meanings): MeantCircuit[] {
  const only = all.length === 1 ? (all[0]?.id ?? "") : "";
  // Kinds that no reading tells apart are one kind to all of them.
  const spoken = new Map<string, number>();
  const speaks = (circuit: Circuit): number => {
    const parts = shownParts(readings, circuit, only);
    const log = spoken.get(parts) ?? speaksFor(circuit, all, readings, meanings);
    spoken.set(parts, log);
    return log;
  };
  const logs = list.map(({ circuit, weight }) => Math.log(weight) + (readings.length === 0 ? 0 : speaks(circuit)));
  const top = Math.max(...logs);
  // A place no kind has: the lead is refused where the reading is looked at, by its name.
  if (top === Number.NEGATIVE_INFINITY) return [...list];
  const total = logs.reduce((sum, log) => sum + Math.exp(log - top), 0);
  return list.map(({ circuit }, index) => ({ circuit, weight: Math.exp((logs[index] ?? 0) - top) / total }));
}

/** What the sheet of a circuit means, as far as its readings tell: the likeliest kind. @param meanings what was worked out before only saves time */
export function settledCircuit(circuit: Circuit, all: readonly Circuit[], readings: readonly Reading[], meanings: Meanings = FORGETFUL): Circuit {
  const list = alternativesOf(circuit);
  if (list.length < 2) return circuit;
  const weighed = weighedAlternatives(list, all, readings, meanings);
  return weighed.reduce((best, one) => (one.weight > best.weight ? one : best)).circuit;
}

/** Steel before the tip makes the output conduct on most sensors; on the others it is the other way round. */
const STEEL_CONDUCTS = 0.85;

/**
 * Readings of a circuit with the level that steel at the tip, or away from it, stands for where only that was said: the same way round in all of
 * them, the way that more of them fit. A sensor that shows one level in both then shows the wrong one in one of them.
 */
export function levelsBySteel(circuit: Circuit, all: readonly Circuit[], readings: readonly Reading[], meanings: Meanings): readonly Reading[] {
  const silent = ({ setup }: Reading): boolean => setup?.steel !== undefined && setup.truth?.level === undefined;
  if (!readings.some(silent)) return readings;
  const stated = (at: "low" | "high", away: "low" | "high"): Reading[] =>
    readings.map((reading) =>
      silent(reading)
        ? { ...reading, setup: { ...reading.setup, truth: { ...reading.setup?.truth, level: reading.setup?.steel === "at" ? at : away } } }
        : reading,
    );
  const [usual, other] = [stated("low", "high"), stated("high", "low")];
  const fits = (one: readonly Reading[], share: number): number => Math.log(share) + speaksFor(circuit, all, one, meanings);
  return fits(usual, STEEL_CONDUCTS) >= fits(other, 1 - STEEL_CONDUCTS) ? usual : other;
}
