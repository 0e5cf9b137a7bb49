import { BadInput, type Circuit, keysOf, type Measurement, type Pin, pinWord, type Reading, type Setup, type Value } from "@fox-lamp/language";
import { buildModel, type CircuitModel, type Quantity } from "../circuit";
import { CAUTIONS, PROVES, simulateReading } from "../instruments";
import { formatQuantity } from "../units";
import { expectHealthy } from "./expect";

/** A way of asking a cavity what it is (T3): a voltage unplugged or plugged, whether it moves with the part, or continuity with the key off. */
export type CavityQuestion = "volts-unplugged" | "from-battery" | "volts-loaded" | "volts-plugged" | "moves" | "ohms-to-ground";

/** One reading at one cavity of a connector nobody has a diagram of. */
export interface CavityReading {
  readonly cavity: string;
  readonly question: CavityQuestion;
  /** Volts, ohms, or "OL"; lowest and highest volts where it is asked whether it moves. */
  readonly value: number | "OL" | { readonly min: number; readonly max: number };
}

/** What the readings say the cavities are. */
export interface Identification {
  /** For every cavity its pins, likeliest first; probabilities sum to one. */
  readonly cavities: readonly { readonly cavity: string; readonly pins: readonly { readonly pin: Pin; readonly probability: number }[] }[];
  /** The cavities that are settled by what was measured. */
  readonly found: Readonly<Record<string, Pin>>;
  /** The assignment when every cavity is settled; null until then. */
  readonly proven: Readonly<Record<string, Pin>> | null;
  /** The probability that no assignment of this family explains the readings: a fault, or another family. */
  readonly misfit: number;
  /** The question that tells most about what is still open; null when nothing is. */
  readonly next: (AskedCavity & { readonly proves: string }) | null;
}

/** A question at a cavity, in words. */
export interface AskedCavity {
  readonly cavity: string;
  readonly question: CavityQuestion;
  readonly title: string;
  readonly cautions: readonly string[];
  /** How its answer is read: instrument, and lowest and highest where it is watched. */
  readonly meter: Measurement["meter"];
  readonly record: Measurement["record"];
}

/** Resistor that loads a cavity: a pull-up collapses under it, a feed or reference does not notice. */
const LOAD_OHMS = 1000;

interface Asked {
  readonly meter: Measurement["meter"];
  readonly black: string;
  readonly setup: Setup;
  readonly record?: "min-max";
  readonly title: string;
}

/** How a part is moved by hand, and how people say it; what is not here is not moved while somebody watches. */
const MOVED: Readonly<Partial<Record<Quantity, { readonly kind: NonNullable<Setup["stimulus"]>["kind"]; readonly how: string }>>> = {
  position: { kind: "sweep", how: "while it is moved slowly from stop to stop" },
  pressure: { kind: "vacuum", how: "while a hand pump pulls on its port" },
  level: { kind: "steel", how: "while steel passes its tip, or the switch is worked" },
};

/** What a question is as a measurement at a pin's place. @param quantity what the part senses */
export function askedAt(question: CavityQuestion, point: string, quantity: Quantity = "none"): Asked {
  const open = ["sensor"];
  switch (question) {
    case "volts-unplugged":
      return { meter: "volts-dc", black: "bat-", setup: { open }, title: "against battery negative, key on, unplugged" };
    case "from-battery":
      return {
        meter: "volts-dc",
        black: "bat+",
        setup: { open },
        title: "from battery positive, key on, unplugged: only a ground shows the battery's voltage",
      };
    case "volts-loaded": {
      const add = [{ kind: "resistor" as const, from: point, to: "bat-", ohms: LOAD_OHMS }];
      return {
        meter: "volts-dc",
        black: "bat-",
        setup: { open, add },
        title: `with ${formatQuantity(LOAD_OHMS, "ohm", 2)} to battery negative, key on, unplugged: a signal's pull-up gives way`,
      };
    }
    case "volts-plugged":
      return { meter: "volts-dc", black: "bat-", setup: {}, title: "against battery negative, key on, plugged and back-probed" };
    case "moves": {
      const { kind, how } = MOVED[quantity] ?? { kind: "none" as const, how: "" };
      return {
        meter: "volts-dc",
        black: "bat-",
        setup: { stimulus: { kind } },
        record: "min-max",
        title: `lowest and highest against battery negative, key on, plugged and back-probed, ${how}: only the signal moves`,
      };
    }
    case "ohms-to-ground":
      return { meter: "ohms", black: "bat-", setup: { key: "off", open }, title: "resistance to battery negative, key off, unplugged" };
  }
}

/** Questions in the order they are asked where they tell alike: what disturbs least first. */
const QUESTIONS: Readonly<Record<CavityQuestion, number>> = {
  "volts-unplugged": 1,
  "from-battery": 0.9,
  "volts-loaded": 0.8,
  "volts-plugged": 0.7,
  moves: 0.65,
  "ohms-to-ground": 0.6,
};

/** More pins than this would mean too many assignments to try. */
const MOST_PINS = 7;
/** A reading outside what a pin can show is a slip or a fault this often. */
const ODD = 0.02;
const SETTLED = 0.95;
/** Above this nothing is settled: the readings may belong to no pin of the family. */
const DOUBTED = 0.2;
/** How far a voltage may lie outside its computed window before it counts as odd, volts; a factor for ohms. */
const SLACK_VOLTS = 0.25;
const SLACK_FACTOR = 1.6;

interface Window {
  readonly low: number;
  readonly high: number;
}

function fits(window: Window | "OL" | null, question: CavityQuestion, said: CavityReading["value"]): number {
  if (window === null) return 0.3;
  if (window === "OL" || said === "OL") return window === "OL" && said === "OL" ? 1 - ODD : ODD;
  const { low, high } = window;
  const value = typeof said === "object" ? said.max - said.min : said;
  if (question === "moves") return value >= low && value <= high ? 1 - ODD : ODD;
  const ohms = question === "ohms-to-ground";
  const inside = ohms ? value >= low / SLACK_FACTOR - 1 && value <= high * SLACK_FACTOR + 1 : value >= low - SLACK_VOLTS && value <= high + SLACK_VOLTS;
  // A narrow window that is met says more than a wide one.
  const width = ohms ? Math.log((high + 1) / (low + 1)) + 2 * Math.log(SLACK_FACTOR) : high - low + 2 * SLACK_VOLTS;
  const span = ohms ? Math.log(1e8) : 16;
  return inside ? (1 - ODD) * (1 - ODD / 2 + (ODD / 2) * (span / Math.max(width, 0.1))) * Math.min(1, 1 / Math.max(width, 0.5)) : ODD / span;
}

function windowsOf(circuit: CircuitModel, model: ReturnType<typeof buildModel>, pins: readonly Pin[]): Map<string, Window | "OL" | null> {
  const windows = new Map<string, Window | "OL" | null>();
  for (const question of keysOf(QUESTIONS)) {
    if (question === "moves" && MOVED[circuit.built.world.quantity] === undefined) continue;
    for (const pin of pins) {
      const red = `${pin}@sensor` as const;
      const { meter, black, setup, record } = askedAt(question, red, circuit.built.world.quantity);
      if (question === "moves") {
        const moved = changeOf(simulateReading(model, { circuit: circuit.id, meter, red, black, setup, record }, [], "question"));
        windows.set(`${question} ${pin}`, moved > LEAST_MOVE ? { low: LEAST_MOVE, high: MOST_MOVED * moved } : { low: 0, high: LEAST_MOVE });
        continue;
      }
      const expect = expectHealthy(model, { circuit: circuit.id, meter, red, black, setup }, "question");
      const { low = null, high = null, word } = expect ?? {};
      windows.set(`${question} ${pin}`, low !== null && high !== null ? { low, high } : word === "OL" ? "OL" : null);
    }
  }
  return windows;
}

/** A pin that changes by less than this stands, volts; how much of what it would change at most it may change. */
const LEAST_MOVE = 0.2;
const MOST_MOVED = 1.4;

function changeOf(shown: Value | null): number {
  return typeof shown === "object" && shown !== null ? shown.max - shown.min : 0;
}

function permutations<T>(items: readonly T[]): T[][] {
  if (items.length <= 1) return [[...items]];
  return items.flatMap((item, index) => permutations(items.filter((_, other) => other !== index)).map((rest) => [item, ...rest]));
}

/**
 * Identifies the cavities of a connector by measuring (T3): weighs every assignment of the family's pins to the cavities by
 * what a healthy circuit shows at each pin, and names the question that tells most about what is still open.
 *
 * @param circuit the family and parameters assumed; its cavities are not used
 * @param cavities names of the connector's cavities, as many as the family has pins at the sensor
 * @throws BadInput for another number of cavities, or a reading at a cavity the connector does not have
 */
export function identifyPins(circuit: Circuit, cavities: readonly string[], readings: readonly CavityReading[]): Identification {
  const model = buildModel([circuit]);
  const [built] = model.circuits as [CircuitModel];
  const pins = built.pins.map(({ pin }) => pin).filter((pin) => built.paths.some((path) => path.pin === pin && path.places.has("sensor")));
  if (pins.length !== cavities.length || pins.length > MOST_PINS) {
    throw new BadInput({
      code: "identify:count",
      where: "cavities",
      message: `${built.family.id} has ${pins.length} pins at the sensor, the connector ${cavities.length} cavities; expected as many`,
    });
  }
  const stray = readings.findIndex(({ cavity }) => !cavities.includes(cavity));
  if (stray >= 0) {
    throw new BadInput({
      code: "identify:cavity",
      where: `readings[${stray}].cavity`,
      message: `no cavity is called "${readings[stray]?.cavity}"; expected ${cavities.join(", ")}`,
    });
  }
  const windows = windowsOf(built, model, pins);
  const ways = permutations(pins).map((order) => ({
    order,
    weight: readings.reduce((product, { cavity, question, value }) => {
      const pin = order[cavities.indexOf(cavity)] as Pin;
      return product * fits(windows.get(`${question} ${pin}`) ?? null, question, value);
    }, 1 / factorial(pins.length)),
  }));
  // What any of them would give if the readings were drawn from nowhere: nothing of this family fits.
  const nowhere = readings.reduce((product, { question }) => product * (question === "ohms-to-ground" ? 0.05 : 0.06), 0.02);
  const explained = ways.reduce((sum, { weight }) => sum + weight, 0);
  const total = explained + nowhere;
  const shares = cavities.map((cavity, index) => ({
    cavity,
    pins: pins
      .map((pin) => ({ pin, probability: ways.reduce((sum, { order, weight }) => sum + (order[index] === pin ? weight : 0), 0) / explained }))
      .sort((a, b) => b.probability - a.probability),
  }));
  const misfit = nowhere / total;
  const found = Object.fromEntries(
    shares.flatMap(({ cavity, pins: [first] }) => (misfit < DOUBTED && first !== undefined && first.probability >= SETTLED ? [[cavity, first.pin]] : [])),
  );
  const settled = Object.keys(found).length === cavities.length;
  const next = settled ? null : nextQuestion(shares, windows, readings, built.built.world.quantity);
  return { cavities: shares, found, proven: settled ? found : null, misfit, next };
}

function factorial(n: number): number {
  return n <= 1 ? 1 : n * factorial(n - 1);
}

/** The question whose answers differ most between the pins a cavity may still be. */
function nextQuestion(
  shares: Identification["cavities"],
  windows: ReadonlyMap<string, Window | "OL" | null>,
  readings: readonly CavityReading[],
  quantity: Quantity,
): Identification["next"] {
  const asked = new Set(readings.map(({ cavity, question }) => `${question} ${cavity}`));
  let best: { cavity: string; question: CavityQuestion; spread: number } | null = null;
  for (const { cavity, pins } of shares) {
    for (const question of keysOf(QUESTIONS)) {
      if (asked.has(`${question} ${cavity}`)) continue;
      const order = QUESTIONS[question];
      let spread = 0;
      for (const first of pins) {
        for (const second of pins) {
          if (first === second) continue;
          const [a, b] = [windows.get(`${question} ${first.pin}`) ?? null, windows.get(`${question} ${second.pin}`) ?? null];
          spread += order * first.probability * second.probability * apart(a, b, question);
        }
      }
      if (best === null || spread > best.spread + 1e-9) best = { cavity, question, spread };
    }
  }
  if (best === null || best.spread < 1e-3) return null;
  return { ...inWords(best.cavity, best.question, quantity), proves: PROVES.identify };
}

function inWords(cavity: string, question: CavityQuestion, quantity: Quantity): AskedCavity {
  const { title, meter, record } = askedAt(question, `cavity ${cavity}`, quantity);
  return { cavity, question, title: `Cavity ${cavity} ${title}`, cautions: question === "ohms-to-ground" ? [CAUTIONS.ohms] : [], meter, record };
}

/** Every question that can be asked of a cavity of a circuit's connector, in any order. @throws BadInput for a circuit that cannot be */
export function cavityQuestions(circuit: Circuit, cavity: string): readonly AskedCavity[] {
  const [built] = buildModel([circuit]).circuits as [CircuitModel];
  const { quantity } = built.built.world;
  return keysOf(QUESTIONS)
    .filter((question) => question !== "moves" || MOVED[quantity] !== undefined)
    .map((question) => inWords(cavity, question, quantity));
}

/** What was measured at cavities that are settled, as readings of the circuit: they are readings of the job like any other. */
export function readingsAtPins(circuit: Circuit, found: Identification["found"], readings: readonly CavityReading[]): Reading[] {
  const [built] = buildModel([circuit]).circuits as [CircuitModel];
  return readings.flatMap(({ cavity, question, value }) => {
    const pin = found[cavity];
    if (pin === undefined) return [];
    const red = `${pin}@sensor`;
    const { title: _title, ...asked } = askedAt(question, red, built.built.world.quantity);
    return [{ circuit: circuit.id, red, ...asked, value }];
  });
}

/** One where two windows cannot be mixed up, zero where they are the same. */
function apart(a: Window | "OL" | null, b: Window | "OL" | null, question: CavityQuestion): number {
  if (a === null || b === null) return 0;
  if (a === "OL" || b === "OL") return a === b ? 0 : 1;
  if (question === "moves") return a.low === b.low ? 0 : 1;
  const slack = question === "ohms-to-ground" ? 0.6 * Math.max(a.high, b.high) + 1 : 2 * SLACK_VOLTS;
  const gap = Math.max(a.low - b.high, b.low - a.high);
  return gap > slack ? 1 : gap > 0 ? 0.5 * (gap / slack) : 0;
}

/** Pins less likely than this are not named among what a cavity can be. */
const NAMED_FROM = 0.1;

/** What a cavity was found to be, or can still be, in words: "C is the signal (97 %)", "A is the reference (52 %) or the ground (48 %)". */
export function cavityWords({ cavities }: Identification): readonly string[] {
  return cavities.map(({ cavity, pins }) => {
    const open = pins.filter(({ probability }, index) => index === 0 || probability >= NAMED_FROM);
    if (open.length === pins.length && pins.length > 2) return `${cavity} can be any of them`;
    return `${cavity} is ${open.map(({ pin, probability }) => `the ${pinWord(pin)} (${Math.round(100 * probability)} %)`).join(" or ")}`;
  });
}
