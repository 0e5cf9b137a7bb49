import { QUIET_SHARE } from "../../faults";
import type { ConverterEnds } from "../../instruments";
import { choleskyInPlace, inverseFromFactor, logAdd, logNormalDensity } from "../../numeric";
import type { PredictionTable } from "../predictions/table";
import { BrinkStates } from "./brink-states";
import { cutOff } from "./cut-off";
import { ranksOf, usedColumns, weighedAs } from "./laid-out";
import { logNumeric, NumberAlone } from "./number-alone";
import type { Circumstances, Observation } from "./observation";
import { Repeats } from "./repeats";
import { SameGo } from "./same-go";
import { SameSide } from "./same-side";
import { SharedNoise, type SharedSpread } from "./shared-noise";
import { type JointNumbers, SlipPatterns } from "./slip-patterns";
import { logBroad, logLastingSlip, logNamedSlip, logSlip, meantOhms } from "./slips";
import { type CellEvidence, rowAt, WordWeigher } from "./words";

// Taken out of Math once: these run millions of times.
const { abs, exp, log, max, min, sqrt } = Math;

/** How often the first unplugging of a connector cures a bad contact in it for the day. */
export const CURE_SHARE = 0.5;
const LOG_TWO_PI = log(2 * Math.PI);
const NEVER = Number.NEGATIVE_INFINITY;

/** An end this far below a slip, alone, logarithm, is one: what it says of the level would only bend the others. */
const GROSS_END_LOG = 20;

/**
 * Evaluates cells one by one in storage that is allocated once. The numbers are jointly normal through the shared tolerances; patterns of
 * slipped readings are summed over ({@link SlipPatterns}), so the order of readings cannot matter. Leave-one-out terms come from the precision
 * matrix (standard Gaussian identities). Where the fault comes and goes, every reading is a mixture of the fault and the sound circuit: the
 * likelier side is laid out, the other one counts by how it compares alone.
 */
export class CellWeigher implements JointNumbers, SharedSpread {
  readonly scratch: CellEvidence;
  private readonly numbers: readonly { readonly observation: Observation; readonly index: number }[];
  private readonly words: WordWeigher;
  private readonly slips: readonly number[];
  /** What each number can have been before a slip of its unit. */
  private readonly meant: readonly ReturnType<typeof meantOhms>[];
  private readonly shares: readonly number[];
  private readonly byItself: NumberAlone;
  private readonly n: number;
  /** The shared variables that move any of these readings. */
  private readonly active: Int32Array;
  private readonly scaled: Float64Array;
  private readonly residual: Float64Array;
  /** Covariance of the scaled numbers, its Cholesky factor, and its inverse; n x n. */
  readonly spread: Float64Array;
  readonly precision: Float64Array;
  private readonly column: Float64Array;
  readonly weighted: Float64Array;
  readonly alone: Float64Array;
  /** log P(number | all others), and of everything else it can be. */
  readonly conditional: Float64Array;
  readonly otherwise: Float64Array;
  readonly lasting: Float64Array;
  readonly repeats: Repeats;
  private readonly slipPart: Float64Array;
  readonly shown: Float64Array;
  /** log P(a number is shown at all), as they share it. */
  private readonly answers: Float64Array;
  private readonly sameSide: SameSide;
  private readonly sameGo: SameGo;
  readonly logNoise: Float64Array;
  readonly mayEnd: boolean;
  readonly ends: number[] = [];
  /** Place of each number among all by name and value. */
  private readonly rank: readonly number[];
  private readonly endShares: Float64Array;
  /** Where each number's row stands, and its scale. */
  private readonly slots: Int32Array;
  readonly scales: Float64Array;
  /** What the numbers share of their noise. */
  private readonly shared: SharedNoise;
  /** What the shared variables move each scaled number by, variance. */
  readonly moved: Float64Array;
  private readonly brinks: BrinkStates;
  private readonly patterns: SlipPatterns;

  constructor(
    private readonly observations: readonly Observation[],
    private readonly d: number,
    private readonly known: Circumstances,
  ) {
    const numbered = observations.map((observation, index) => ({ observation: weighedAs(observation), index }));
    this.numbers = numbered.filter(({ observation }) => observation.number !== null);
    const laid = numbered.map(({ observation }) => observation);
    this.words = new WordWeigher(laid, known);
    this.slips = laid.map(logSlip);
    this.meant = this.numbers.map(({ observation }) => meantOhms(observation));
    this.shares = laid.map((observation) => logSlip(observation) - logBroad(observation));
    const n = this.numbers.length;
    this.n = n;
    this.scratch = this.makeScratch();
    this.active = usedColumns(
      this.numbers.map(({ observation }) => observation.table),
      d,
    );
    this.byItself = new NumberAlone(
      this.numbers.map(({ observation }) => observation),
      this.active,
      d,
    );
    this.scaled = new Float64Array(n * this.active.length);
    this.residual = new Float64Array(n);
    this.spread = new Float64Array(n * n);
    this.precision = new Float64Array(n * n);
    this.column = new Float64Array(n);
    this.weighted = new Float64Array(n);
    this.alone = new Float64Array(n);
    this.conditional = new Float64Array(n);
    this.otherwise = new Float64Array(n);
    this.lasting = new Float64Array(n);
    this.repeats = new Repeats(this.numbers.map(({ observation }) => observation));
    this.slipPart = new Float64Array(n);
    this.shown = new Float64Array(n);
    this.answers = new Float64Array(n);
    this.sameGo = new SameGo(this.numbers.map(({ index }) => known.goes[index] ?? -1));
    this.sameSide = new SameSide(
      this.numbers.map(({ observation }) => observation),
      laid,
    );
    this.logNoise = new Float64Array(n);
    this.endShares = new Float64Array(n);
    this.mayEnd = this.numbers.some(({ observation }) => observation.table.ends !== null);
    const name = (i: number): string => `${this.numbers[i].observation.key} ${this.numbers[i].observation.number}`;
    this.rank = this.mayEnd ? ranksOf(Array.from({ length: n }, (_, i) => name(i))) : [];
    this.slots = new Int32Array(n);
    this.scales = new Float64Array(n);
    this.shared = new SharedNoise(this.numbers.map(({ observation }) => observation.table));
    this.moved = new Float64Array(n);
    this.brinks = new BrinkStates(this.numbers.map(({ observation }) => observation));
    this.patterns = new SlipPatterns(n, this);
  }

  makeScratch(): CellEvidence {
    const total = this.observations.length;
    return { slipped: new Float64Array(total), absent: new Float64Array(total), single: new Float64Array(total) };
  }

  /** Mixes another evaluation of the same cell into the last one. */
  blend(other: CellEvidence, share: number): void {
    const { slipped, absent, single } = this.scratch;
    for (let index = 0; index < slipped.length; index += 1) {
      slipped[index] = (1 - share) * slipped[index] + share * other.slipped[index];
      absent[index] = (1 - share) * absent[index] + share * other.absent[index];
      single[index] = logAdd(single[index] + log(1 - CURE_SHARE), other.single[index] + log(CURE_SHARE));
    }
  }

  /** log P(all observations | cell), but for the share of clean readings. @param sound observations that see the sound twin for sure */
  evaluate(cell: number, sound: Uint8Array | null, into: CellEvidence): number {
    into.slipped.fill(0);
    into.absent.fill(0);
    const wordLog = this.words.weigh(cell, sound, into);
    if (this.n === 0) return wordLog;
    const { presence } = this.known;
    let chosen = this.settleBrinks(cell, sound);
    this.ends.length = 0;
    this.shared.clear();
    for (let i = 0; i < this.n; i += 1) chosen += this.placeNumber(i, cell, sound, presence, into);
    this.shareAnswers();
    if (this.ends.length > 1) this.ends.sort((a, b) => this.rank[a] - this.rank[b]);
    const joint = this.joint() + chosen;
    return (
      wordLog +
      this.patterns.sum(joint, (i, share) => {
        const { index } = this.numbers[i];
        into.slipped[index] = into.slipped[index] + share * this.slipPart[i];
      })
    );
  }

  /**
   * The sum of log P(one observation alone | cell), slips allowed for: what they taught each other about tolerances is left out.
   * @param sound observations that see the sound twin for sure
   */
  apart(cell: number, sound: Uint8Array | null = null): number {
    this.words.weigh(cell, sound, this.scratch);
    this.settleBrinks(cell, sound);
    this.ends.length = 0;
    for (let i = 0; i < this.n; i += 1) this.placeNumber(i, cell, sound, this.known.presence, this.scratch);
    let sum = 0;
    for (const single of this.scratch.single) sum += single;
    return sum;
  }

  /**
   * How far the numbers lie from what a cell predicts: the sum of their squares, and each against what all others make of it, standard deviations.
   * Where a fault shows only at times, or its electronics stand on the brink, the likelier state counts.
   *
   * @param cured whether unplugging or moving its connector cured it from then on
   */
  misfit(
    cell: number,
    cured: boolean,
  ): { readonly squares: number; readonly count: number; readonly far: readonly { readonly id: string; readonly sigmas: number }[] } {
    const { after, disturbedBy } = this.known;
    this.evaluate(cell, cured ? (after[disturbedBy[cell]] ?? null) : null, this.scratch);
    let squares = 0;
    const far = this.numbers.map(({ observation: { id } }, i) => {
      squares += this.residual[i] * this.weighted[i];
      return { id, sigmas: abs(this.weighted[i]) / sqrt(max(1e-12, this.precision[i * this.n + i])) };
    });
    return { squares, count: this.n, far };
  }

  /** Settles what stands on the brink at a cell. @returns log factor of both states over the one taken */
  private settleBrinks(cell: number, sound: Uint8Array | null): number {
    const { numbers, known } = this;
    return this.brinks.settle(
      (i) => rowAt(cell, numbers[i].observation.table, numbers[i].index, sound),
      (i, row, slot) => {
        const { observation, index } = numbers[i];
        const alone = this.byItself.log(i, slot);
        const twin = observation.table.quiet[cell];
        const there = known.presence?.[index] ?? (known.sometimes[cell] === 1 ? 1 - QUIET_SHARE : 1);
        // A moment in which the fault was not there says nothing of how its electronics do.
        return there === 1 || twin < 0 || row !== cell
          ? alone
          : logAdd(log(there) + alone, log(1 - there) + this.byItself.log(i, observation.table.slot[twin]));
      },
    );
  }

  /** Takes the slot of a number, lays it out, and weighs what else the number can be. @returns log factor of both sides over the slot taken */
  private placeNumber(i: number, cell: number, sound: Uint8Array | null, presence: readonly number[] | null, into: CellEvidence): number {
    const { observation, index } = this.numbers[i];
    const { table } = observation;
    const twin = table.quiet[cell];
    const moved = this.sameGo.there(i);
    const row = rowAt(cell, table, index, sound);
    let slot = table.slot[row];
    let alone = this.byItself.log(i, slot);
    if (this.repeats.groups.length > 0) this.lasting[i] = this.shares[index] + logLastingSlip(table.mean[slot], this.byItself.variance, this.meant[i]);
    const slip = logAdd(this.slips[index], this.shares[index] + logNamedSlip(observation, table.mean[slot], this.byItself.variance, this.meant[i]));
    let other = NEVER;
    let brief = NEVER;
    let weight = 0;
    const brink = table.brinks?.get(row);
    if (brink !== undefined) {
      const otherShare = this.brinks.otherShare(i);
      into.absent[index] = otherShare;
      if (otherShare > 0.5) {
        slot = brink.slot;
        alone = this.byItself.log(i, slot);
      }
    }
    if (presence !== null && twin >= 0 && row === cell) {
      const there = this.byItself.shows(i, presence[index] ?? 1, slot, table.slot[twin]);
      const quiet = this.byItself.log(i, table.slot[twin]);
      other = log(1 - there) + quiet;
      // The likelier side is laid out; the other one counts by how it compares alone.
      const side = log(there) + alone;
      const sides = logAdd(side, other);
      brief = log(there) + this.byItself.logBrief(i, slot, table.slot[twin]);
      into.absent[index] = max(into.absent[index], exp(other - logAdd(sides, brief)));
      if (other > side) {
        other = side;
        alone = quiet;
        slot = table.slot[twin];
      }
      weight = sides - alone;
    } else if (presence === null && twin >= 0 && this.known.sometimes[cell] === 1) {
      const quiet = this.byItself.log(i, table.slot[twin]);
      const there = this.byItself.shows(i, moved, slot, table.slot[twin]);
      const [logShows, logHides] = [log(there), log(1 - there)];
      const [shows, hides] = [logShows + alone, logHides + quiet];
      brief = logShows + this.byItself.logBrief(i, slot, table.slot[twin]);
      // A quiet try is laid out as the sound circuit it looked like: beside what else was read it fits far better than alone.
      other = min(shows, hides);
      into.absent[index] = max(into.absent[index], exp(hides - logAdd(logAdd(shows, hides), brief)));
      weight = logShows;
      this.sameGo.note(i, shows >= hides);
      if (hides > shows) {
        alone = quiet;
        weight = logHides;
        slot = table.slot[twin];
      }
    }
    this.alone[i] = alone;
    this.otherwise[i] = logAdd(logAdd(slip, other), brief);
    this.slipPart[i] = exp(slip - this.otherwise[i]);
    into.single[index] = logAdd(alone + weight, presence === null ? this.otherwise[i] : logAdd(slip, brief));
    if (table.ends !== null && alone + GROSS_END_LOG < this.otherwise[i]) this.setAside(i, index, into);
    else this.layOut(i, table, slot, observation.number as number);
    return weight;
  }

  /** Numbers that are shown for one and the same reason are shown together. */
  private shareAnswers(): void {
    const { answers, shown, sameSide } = this;
    if (!sameSide.any) return;
    for (let i = 0; i < this.n; i += 1) shown[i] = shown[i] - answers[i];
    sameSide.share(answers);
    for (let i = 0; i < this.n; i += 1) shown[i] = shown[i] + answers[i];
  }

  /** Takes an end that can hardly be, even alone, for something else from the start: laid out, it would bend all others beyond any measure. */
  private setAside(i: number, index: number, into: CellEvidence): void {
    into.slipped[index] = this.slipPart[i];
    this.scaled.fill(0, i * this.active.length, (i + 1) * this.active.length);
    this.scales[i] = 1;
    this.shared.leave(i);
    this.residual[i] = 0;
    this.logNoise[i] = 0;
    this.answers[i] = 0;
    this.shown[i] = this.otherwise[i] + 0.5 * LOG_TWO_PI;
    this.otherwise[i] = NEVER;
  }

  private layOut(i: number, table: PredictionTable, slot: number, number: number): void {
    this.slots[i] = slot;
    this.answers[i] = logNumeric(table, slot);
    this.shown[i] = this.answers[i];
    if (table.ends === null) this.layLevel(i, table, number, table.noise[slot]);
    else this.layEnd(i, table, table.ends, number);
  }

  /** Lays out a number that is an end as the level that, of itself, says the same, and keeps by how much its side is likelier than that level. */
  private layEnd(i: number, table: PredictionTable, ends: ConverterEnds, number: number): void {
    const slot = this.slots[i];
    const [mean, raw, all] = [table.mean[slot], table.noise[slot], this.byItself.varianceAt(table, slot)];
    const { log: likely, level, variance } = cutOff(ends, number, mean, all);
    this.endShares[i] = likely - logNormalDensity(level, mean, all + variance);
    this.shown[i] = this.shown[i] + this.endShares[i];
    this.layLevel(i, table, level, raw + variance);
    this.ends.push(i);
  }

  private layLevel(i: number, table: PredictionTable, level: number, noise: number): void {
    const { d, scaled, active } = this;
    const m = active.length;
    const slot = this.slots[i];
    const scale = 1 / sqrt(noise);
    this.scales[i] = scale;
    this.shared.lay(i, slot);
    this.residual[i] = (level - table.mean[slot]) * scale;
    this.logNoise[i] = log(noise);
    for (let k = 0; k < m; k += 1) scaled[i * m + k] = table.jacobian[slot * d + active[k]] * scale;
  }

  /** Fills the covariance of the numbers laid out. */
  private spreadOut(): void {
    const { n, scaled, spread, moved } = this;
    const m = this.active.length;
    for (let i = 0; i < n; i += 1) {
      for (let j = 0; j <= i; j += 1) {
        let product = 0;
        for (let k = 0; k < m; k += 1) product += scaled[i * m + k] * scaled[j * m + k];
        if (i === j) moved[i] = product;
        spread[i * n + j] = i === j ? 1 + product : product;
      }
    }
    this.shared.addTo(this);
  }

  /** log P(an end | other numbers) against the level it was laid out as, by what those say of that level: see {@link JointNumbers}. */
  endBeside(i: number, weighted: number, precision: number): number {
    const { table, number } = this.numbers[i].observation;
    const noise = 1 / this.scales[i] ** 2;
    const slot = this.slots[i];
    const moved = (this.residual[i] - weighted / precision) / this.scales[i];
    const variance = max(table.noise[slot], noise / precision - (noise - table.noise[slot]));
    const known = cutOff(table.ends as ConverterEnds, number as number, table.mean[slot] + moved, variance).log;
    const laidOut = -0.5 * (LOG_TWO_PI + this.logNoise[i] - log(precision) + (weighted * weighted) / precision);
    return known - laidOut - this.endShares[i];
  }

  /** log P(all numbers) with the rows taken; fills precision and leave-one-out densities. */
  private joint(): number {
    const { n, spread, precision, residual, weighted, conditional, shown, logNoise } = this;
    this.spreadOut();
    let allNoise = 0;
    let showNumber = 0;
    for (let i = 0; i < n; i += 1) {
      allNoise += logNoise[i];
      showNumber += shown[i];
    }
    const logDeterminant = choleskyInPlace(spread, n);
    // One is added to every diagonal entry: only a prediction that is no number can bring this about.
    if (logDeterminant === null) throw new Error("the spread of the readings is not positive definite");
    inverseFromFactor(spread, n, precision, this.column);
    let quadratic = 0;
    for (let i = 0; i < n; i += 1) {
      let sum = 0;
      for (let j = 0; j < n; j += 1) sum += precision[i * n + j] * residual[j];
      weighted[i] = sum;
      quadratic += sum * residual[i];
    }
    for (let i = 0; i < n; i += 1) {
      const own = max(1e-12, precision[i * n + i]);
      const miss = weighted[i] ** 2 / own;
      conditional[i] = shown[i] - 0.5 * (LOG_TWO_PI + logNoise[i] - log(own) + miss);
    }
    return showNumber - 0.5 * (n * LOG_TWO_PI + allNoise + logDeterminant + quadratic);
  }
}
