import { BadInput, type Circuit, type Diagnosis, type Instrument, type JobFile, type NextTest, type Reading } from "@fox-lamp/language";
import { buildModel, type CircuitModel, type Model, type World } from "../circuit";
import { hintsAmong } from "../faults";
import { type Conditions, measurementId } from "../tests";
import { outlook, type Progress, placeKey, type RankedTest, rankTests, separability, testKey } from "./advice";
import { clustersOf } from "./clusters";
import { CircuitEngine, type EngineOptions, leavesWorldOpen } from "./engine";
import { nextTestOf } from "./next";
import { policyOf } from "./policy";
import { type CircuitPosterior, combine, type JointPosterior, slipProbability } from "./posterior";
import { doubtfulOf, refutedBy, singlesOf, suspectsOf, titleIn } from "./reasons";
import { DECLARE, REFUTED_LOG } from "./verdict";

/** A doubtful reading is more likely slipped than not. */
const DOUBTFUL = 0.5;
/** From this probability of a slip on, repeating the test is worth its time. */
const REPEAT = 0.15;
/** Rivals lighter than this, which no test here tells from the leading unit, are named but do not join its group. */
const LEAST_MEMBER = 0.01;
/** Expected number of slipped readings from which the readings contradict one another. */
const CONTRADICTION = 1.6;
/** Two units that no possible test tells apart by more than this stay a group, bits. */
const INSEPARABLE_BITS = 0.12;
/** A fault that shows only at times is not refuted by two quiet tries: a sound circuit keeps it open, and says so. */
const QUIET_REFUTED_LOG = Math.log(1 / 100);
/** What a wrong verdict costs: the part, the time, the comeback, in minutes of work. */
const WRONG_MINUTES = 40;
/** What it costs to send a car home with its fault unfound, in minutes of work: it comes back, and everything is done again. */
const MISSED_MINUTES = 65;
/** With every rival refuted and no test left that would tell more, a verdict or a sound circuit may be declared from here. */
const DECLARE_EXHAUSTED = 0.9;
const SOUND_EXHAUSTED = 0.75;
const MOST_NEXT = 12;
/** With more rivals alive than this nobody asks yet which of them the tests cannot tell apart. */
const MOST_COMPARED = 14;
const MOST_SUSPECTS = 12;

/** The part of a job a diagnosis depends on. */
export type DiagnosedJob = Pick<JobFile, "circuits" | "readings" | "bench" | "policy" | "hints"> & {
  /** Ids of tests the technician cannot or will not do. */
  readonly skipped?: readonly string[];
  /** What is known about the sensed quantities; what readings state themselves is used where this says nothing. */
  readonly conditions?: Conditions;
};

/** Keeps circuit engines between diagnoses; one per set of circuits and what is known about them. */
export class EngineCache {
  private readonly engines = new Map<string, CircuitEngine>();

  constructor(private readonly most = 12) {}

  get(circuits: readonly Circuit[], options: EngineOptions, where: string): CircuitEngine {
    const { conditions, open, hints, policy, carId } = options;
    const parts = circuits.map(({ id, family, with: parameters, inline, title, shares, access }) => [id, family, parameters, inline, title, shares, access]);
    const key = JSON.stringify([parts, conditions, [...open].sort(), hints, policy, carId]);
    let engine = this.engines.get(key);
    if (!engine) {
      engine = new CircuitEngine(circuits, options, where);
      if (this.engines.size >= this.most) this.engines.delete(this.engines.keys().next().value ?? "");
      this.engines.set(key, engine);
    }
    return engine;
  }
}

interface NumberedReading {
  readonly reading: Reading;
  readonly id: string;
  readonly where: string;
}

/** What the readings themselves say about the sensed quantity: the last stated value that does not change by hand. */
function conditionsOf(readings: readonly NumberedReading[], { quantity }: World): Conditions {
  const conditions: { -readonly [K in keyof Conditions]: Conditions[K] } = {};
  for (const { reading } of readings) {
    const measured = reading.meter === "gauge" && typeof reading.value === "number" ? reading.value : undefined;
    if (measured !== undefined && (quantity === "temperature" || quantity === "pressure")) conditions[quantity] = measured;
    const truth = reading.setup?.truth;
    const stimulus = reading.setup?.stimulus?.kind ?? "none";
    if (truth?.temperature !== undefined) conditions.temperature = truth.temperature;
    if (truth?.pressure !== undefined && stimulus === "none") conditions.pressure = truth.pressure;
  }
  return conditions;
}

/**
 * What is known for the whole job as far as it holds for one circuit: a temperature or position for all, a pressure for the only
 * pressure sensor, or for those that see the outside air.
 */
function knownFor(model: Model, id: string, known: Conditions): Conditions {
  if (known.pressure === undefined) return known;
  const gauges = model.circuits.filter(({ built }) => built.world.quantity === "pressure");
  const circuit = gauges.find((candidate) => candidate.id === id);
  if (circuit === undefined || gauges.length === 1 || circuit.built.world.settable.length > 0) return known;
  const { pressure: _pressure, ...rest } = known;
  return rest;
}

function progressOf(readings: readonly NumberedReading[], whole: string, job: DiagnosedJob, inDoubt: ReadonlySet<string>): Progress {
  const reached = new Set<string>();
  const unplugged = new Set<string>();
  const done = new Map<string, number>();
  const doubted = new Set<string>();
  let last: string | null = null;
  let noStart = false;
  for (const { reading, id: readingId } of readings) {
    const circuit = reading.circuit ?? whole;
    for (const point of [reading.meter === "scan" ? "" : reading.red, reading.black ?? "", reading.setup?.stimulus?.at ?? ""]) {
      const [left = "", right] = point.split("@");
      const place = right ?? left;
      const owner = right !== undefined && left.includes(":") ? (left.split(":")[0] ?? circuit) : circuit;
      if (place !== "") reached.add(placeKey(owner, place === "part" ? "sensor" : place));
    }
    for (const open of reading.setup?.open ?? []) {
      const place = placeKey(circuit, open);
      reached.add(place);
      unplugged.add(place);
    }
    const id = testKey(circuit, measurementId(reading));
    done.set(id, (done.get(id) ?? 0) + 1);
    if (inDoubt.has(readingId)) doubted.add(id);
    last = id;
    // A module that sees no engine speed while cranking does not let the engine run.
    if (reading.meter === "scan" && reading.unit === "rpm" && reading.setup?.key === "crank") noStart = reading.value === 0;
    if (reading.setup?.key === "idle" || reading.setup?.key === "rev") noStart = false;
  }
  const bench = job.bench === undefined ? null : new Set<Instrument>(job.bench);
  return { reached, unplugged, done, last, doubted, bench, noStart, skipped: new Set(job.skipped ?? []) };
}

/** The unit with most weight over all circuits; null stands for "nothing wrong". */
function bestUnit(joint: JointPosterior): { posterior: CircuitPosterior | null; unit: number; probability: number } {
  let best: { posterior: CircuitPosterior | null; unit: number; probability: number } = { posterior: null, unit: 0, probability: joint.healthy };
  for (const posterior of joint.circuits) {
    for (let unit = 1; unit < posterior.units.length; unit += 1) {
      const probability = posterior.units[unit] as number;
      if (probability > best.probability) best = { posterior, unit, probability };
    }
  }
  return best;
}

/** Faults that show only at times cannot be refuted by quiet readings. */
function isIntermittent(posterior: CircuitPosterior, unit: number): boolean {
  const { points } = posterior.engine;
  return points.faults.some((fault, index) => fault !== null && fault.during !== null && points.unitOfFault[index] === unit);
}

/** What is still uncertain about the unit, bits (never quite nothing). */
function entropyBits(joint: JointPosterior): number {
  const shares = [joint.healthy, ...joint.circuits.flatMap(({ units }) => [...units.slice(1)])];
  return shares.reduce((sum, share) => (share > 0 ? sum - share * Math.log2(share) : sum), 1e-6);
}

/** Probability that the circuit is sound and the value true but abnormal. */
function outsideWeight(joint: JointPosterior): number {
  return joint.circuits.reduce(
    (sum, { engine, units }) => sum + engine.points.units.reduce((own, unit, at) => own + (unit.endsWith("/outside") ? (units[at] as number) : 0), 0),
    0,
  );
}

/** Probability of all units that may hold a fault which shows only at times. */
function quietWeight(posterior: CircuitPosterior): number {
  let sum = 0;
  for (let fault = 1; fault < posterior.faults.length; fault += 1) {
    if ((posterior.engine.points.faults[fault]?.during ?? null) !== null) sum += posterior.faults[fault] as number;
  }
  return sum;
}

/**
 * Diagnoses a job: weighs its readings by physics, ranks suspects and tests, and declares a verdict when it is proven.
 *
 * @param cache engines kept from earlier calls; the result never depends on it
 * @throws BadInput for circuits or readings that cannot be
 */
export function diagnoseJob(job: DiagnosedJob, cache: EngineCache = new EngineCache()): Diagnosis {
  const numbered = (job.readings ?? []).map((reading, index): NumberedReading => ({ reading, id: reading.id ?? `r${index + 1}`, where: `readings[${index}]` }));
  assertCircuits(job, numbered);
  const whole = job.circuits.length > 1 ? null : job.circuits[0];
  const model = buildModel(job.circuits);
  const policy = policyOf(job.policy);
  const hints = hintsAmong(job.hints ?? []);
  const parts = clustersOf(model).map((circuits) => {
    const ids = new Set(circuits.map(({ id }) => id));
    const own = numbered.filter(({ reading }) => ids.has(reading.circuit ?? whole?.id ?? ""));
    const conditions = Object.fromEntries(
      circuits.map(({ id }) => {
        const { world } = (model.circuits.find((circuit) => circuit.id === id) as CircuitModel).built;
        const said = conditionsOf(
          own.filter(({ reading }) => (reading.circuit ?? whole?.id) === id),
          world,
        );
        return [id, { ...said, ...knownFor(model, id, job.conditions ?? {}) }];
      }),
    );
    const open = new Set(
      own.flatMap(({ reading }) => {
        const circuit = model.circuits.find(({ id }) => id === (reading.circuit ?? whole?.id));
        if (circuit === undefined || !leavesWorldOpen(circuit, reading)) return [];
        const { quantity } = circuit.built.world;
        const known =
          quantity === "position" || quantity === "flow" || (quantity !== "level" && quantity !== "none" && conditions[circuit.id]?.[quantity] !== undefined);
        return known ? [circuit.id] : [];
      }),
    );
    const engine = cache.get(circuits, { conditions, open, hints, policy, carId: model.carId }, "circuits");
    const observations = engine.observe(own);
    return { engine, own, observations, evidence: engine.weigh(observations) };
  });
  const joint = combine(parts);
  const readings = new Map(numbered.map(({ id, reading }) => [id, reading]));
  const best = bestUnit(joint);
  const slips = joint.circuits.flatMap((posterior) =>
    posterior.observations.map((observation, index) => ({ posterior, index, id: observation.id, probability: slipProbability(posterior, index) })),
  );
  const inDoubt = new Set(slips.filter(({ probability }) => probability > REPEAT).map(({ id }) => id));
  const expectedSlips = slips.reduce((sum, { probability }) => sum + (probability > 0.2 ? probability : 0), 0);
  const bestRelative = best.posterior === null ? 0 : (best.posterior.relative[best.unit] as number);

  const ranked: { posterior: CircuitPosterior; tests: RankedTest[] }[] = [];
  const group: string[] = best.posterior === null ? [] : [best.posterior.engine.points.units[best.unit] as string];
  const open: { unit: string; weight: number; posterior: CircuitPosterior; index: number }[] = [];
  let groupProbability = best.probability;
  const beside: string[] = [];
  const refuted: { unit: string; by: string[] }[] = [];
  for (const [index, posterior] of joint.circuits.entries()) {
    const { units } = posterior.engine.points;
    const part = parts[index] as (typeof parts)[number];
    const progress = progressOf(part.own, whole?.id ?? "", job, inDoubt);
    const { tests } = outlook(posterior, progress, (unit) => (posterior.relative[unit] as number) - bestRelative >= REFUTED_LOG);
    const members = new Set<number>(best.posterior === posterior ? [best.unit] : best.posterior === null ? [0] : []);
    const rivals: number[] = [];
    const singles = singlesOf(posterior);
    for (let unit = 0; unit < units.length; unit += 1) {
      if (members.has(unit) || (unit === 0 && (best.posterior === null || index > 0))) continue;
      const relative = posterior.relative[unit] as number;
      const refutedFrom = best.posterior === null && isIntermittent(posterior, unit) ? QUIET_REFUTED_LOG : REFUTED_LOG;
      if (relative - bestRelative >= refutedFrom) rivals.push(unit);
      else if (unit !== 0) refuted.push({ unit: units[unit] as string, by: refutedBy(posterior, unit, best.posterior === posterior ? best.unit : 0, singles) });
    }
    rivals.sort((a, b) => (posterior.units[b] as number) - (posterior.units[a] as number));
    for (const unit of rivals) {
      const anchor = best.posterior === posterior ? best.unit : 0;
      const together =
        rivals.length <= MOST_COMPARED && best.posterior === posterior && unit !== 0 && separability(tests, anchor, unit, posterior.units) < INSEPARABLE_BITS;
      if (together && (posterior.units[unit] as number) < LEAST_MEMBER) {
        beside.push(units[unit] as string);
      } else if (together) {
        group.push(units[unit] as string);
        members.add(unit);
        groupProbability += posterior.units[unit] as number;
      } else {
        open.push({ unit: unit === 0 ? "" : (units[unit] as string), weight: posterior.units[unit] as number, posterior, index: unit });
      }
    }
    const confirming = groupProbability >= 0.9 && open.length > 0;
    const scale = new Float64Array(units.length).fill(1);
    if (confirming) {
      scale.fill(0);
      const kept = [...members, ...open.filter((rival) => rival.posterior === posterior).map((rival) => rival.index)];
      if (!kept.includes(0) && best.posterior !== posterior) kept.push(0);
      for (const unit of kept) scale[unit] = 1 / Math.max(1e-300, posterior.units[unit] as number);
      for (const unit of members) scale[unit] = (scale[unit] as number) / members.size;
    }
    ranked.push({ posterior, tests: rankTests(tests, scale, MOST_NEXT) });
  }
  const allTests = ranked.flatMap(({ posterior, tests }) => tests.map((test) => ({ posterior, test }))).sort((a, b) => b.test.score - a.test.score);
  const soundCircuit = best.posterior === null || (group[0] ?? "").endsWith("/outside");
  const blocking = open.filter(
    ({ unit, posterior, index }) => !(soundCircuit && (unit === "" || unit.endsWith("/outside") || isIntermittent(posterior, index))),
  );
  const sound = soundCircuit ? joint.healthy + outsideWeight(joint) : groupProbability;
  const risk = (1 - sound) * (soundCircuit ? MISSED_MINUTES : WRONG_MINUTES);
  const doubtBits = entropyBits(joint);
  const worthMore = allTests.some(({ test }) => risk * Math.min(1, test.gainBits / doubtBits) > test.minutes);
  const exhausted = allTests.length === 0;
  const quietFaults = joint.circuits.reduce((sum, posterior) => sum + quietWeight(posterior), 0);
  const status = statusOf();
  const done = status === "proven" || status === "nothing-found";
  function statusOf(): Diagnosis["verdict"]["status"] {
    if (expectedSlips >= CONTRADICTION) return "contradiction";
    if (blocking.length > 0 && !(soundCircuit && best.posterior === null && exhausted && sound >= SOUND_EXHAUSTED)) return "narrowing";
    if (!soundCircuit) return (groupProbability >= DECLARE && !worthMore) || (exhausted && groupProbability >= DECLARE_EXHAUSTED) ? "proven" : "narrowing";
    if (worthMore || (sound + quietFaults < DECLARE && !(exhausted && sound >= SOUND_EXHAUSTED))) return "narrowing";
    const clear = best.posterior !== null && open.every(({ unit }) => unit !== "");
    return clear ? "proven" : "nothing-found";
  }
  const doubtful = slips
    .filter(({ probability }) => probability > DOUBTFUL)
    .map(({ posterior, index, probability }) => doubtfulOf(posterior, index, probability, readings));
  const because = [...new Set(refuted.flatMap(({ by }) => by))].sort(byOrder(numbered));
  const units = joint.circuits
    .flatMap((posterior) => posterior.engine.points.units.map((unit, index) => ({ unit, probability: posterior.units[index] as number })).slice(1))
    .reduce((list: { unit: string; probability: number }[], entry) => {
      const same = list.find(({ unit }) => unit === entry.unit);
      if (same) same.probability += entry.probability;
      else list.push({ ...entry });
      return list;
    }, [])
    .sort((a, b) => b.probability - a.probability);
  return {
    format: "fox-lamp/diagnosis@1",
    verdict: {
      status,
      unit: best.posterior === null || status === "nothing-found" ? null : (group[0] ?? null),
      probability: Math.min(1, groupProbability),
      group: group.length > 1 ? group : [],
      open: [...open.map(({ unit }) => unit), ...beside].filter((unit) => unit !== ""),
      because,
      separate: separateWords(group, best.posterior),
      refuted,
    },
    units: units.map(({ unit, probability }) => ({ unit, probability: Math.min(1, probability) })),
    suspects: joint.circuits
      .flatMap((posterior) => suspectsOf(posterior, readings))
      .sort((a, b) => b.probability - a.probability)
      .slice(0, MOST_SUSPECTS),
    doubtful,
    next: done ? [] : allTests.slice(0, MOST_NEXT).map(({ posterior, test }): NextTest => nextTestOf(posterior, test)),
  };
}

/** Refuses readings of circuits the job does not have. */
function assertCircuits(job: DiagnosedJob, readings: readonly NumberedReading[]): void {
  const ids = job.circuits.map((circuit) => circuit.id);
  for (const { reading, where } of readings) {
    if (reading.circuit === undefined ? ids.length === 1 : ids.includes(reading.circuit)) continue;
    const got = reading.circuit === undefined ? "says no circuit" : `no circuit is called "${reading.circuit}"`;
    throw new BadInput({ code: "circuit:unknown", where: `${where}.circuit`, message: `${got}; expected one of ${ids.join(", ")}` });
  }
}

function byOrder(readings: readonly NumberedReading[]): (a: string, b: string) => number {
  const place = new Map(readings.map(({ id }, index) => [id, index]));
  return (a, b) => (place.get(a) ?? 0) - (place.get(b) ?? 0);
}

function separateWords(group: readonly string[], posterior: CircuitPosterior | null): string | null {
  if (group.length < 2 || posterior === null) return null;
  const names = group.map((unit) => titleIn(posterior, unit).toLowerCase());
  const some = (text: string): boolean => group.some((unit) => unit.includes(text));
  const ways: string[] = [];
  if (some("@module") || some("/module:")) ways.push("opening the module's connector and inspecting the bare pin");
  if (some("/contact:") && !some("@module")) ways.push("inspecting the bare terminals");
  if (some("/sensor") || some("/outside")) ways.push("fitting a known-good part, or an independent measurement of what it senses");
  if (ways.length === 0) ways.push("inspecting each by eye along its length");
  return `${names.join(", ")} read alike with these tests; ${ways.join(", or ")} would separate them.`;
}
