import { BadInput, type Expect, type Measurement, type Setup, type SpecLimit, unitOfReading } from "@fox-lamp/language";
import { barometricKPa } from "../arithmetic";
import type { CircuitModel, Model } from "../circuit";
import { windowEnds } from "../procedures";
import { type LimitPoint, limitPoint } from "./point";
import { REFERENCES } from "./references";
import { baseOf, SPEC_UNITS } from "./units";
import { apart, type SpecWindow, windowOfLimit, windowWords } from "./window";

/** Why a specification cannot be, or what it lets pass; a stable code and a sentence. */
export interface SpecProblem {
  readonly code:
    | "unit"
    | "unit-of-meter"
    | "reversed"
    | "nominal-outside"
    | "years-reversed"
    | "no-such-point"
    | "negative-resistance"
    | "below-ground"
    | "above-feed"
    | "no-such-reference"
    | "no-bias"
    | "unit-slip"
    | "against-circuit"
    | "too-wide";
  readonly reason: string;
}

/** Highest volts a battery supply has while it is charged, and how far a supply may lie above its nominal, as a share. */
const CHARGED_VOLTS = 15.5;
const OVER_SUPPLY = 0.06;
/** The upper end of a printed window may lie this many times as high as what feeds the circuit at most. */
const GENEROUS = 1.1;
/** A level below ground by more than this is none, volts. */
const BELOW_GROUND = 0.5;
/** How far a reference may lie from its own, as a share. */
const REFERENCE_SHARE = 0.08;
const NARROW_SHARE = 0.3;
const SLIP = 1000;
const LEAST_OF_HIGH = 0.01;
/** The weather moves the air's pressure by so much to either side, kPa. */
const WEATHER_KPA = 2.5;
/** An unplugged signal under this has no bias, volts. */
const NO_BIAS_VOLTS = 0.5;

function pinOf(lead: string): string {
  return (lead.split("@")[0] ?? lead).split(":").at(-1) ?? lead;
}

/** Meters that read a pin against ground where nobody says otherwise. */
const TO_GROUND: ReadonlySet<string> = new Set(["volts-dc", "volts-ac", "hertz", "duty"]);

/** A state in which a sensor that sees the outside air has the standard atmosphere's pressure at an altitude, where nothing else is said of it. */
function inAirOf([low, high]: readonly [number, number], stated: Setup = {}, { built: { world } }: CircuitModel): Setup {
  const still = stated.key === undefined || stated.key === "on" || stated.key === "off";
  if (world.outsideAir !== true || !still || stated.truth?.pressure !== undefined || stated.stimulus !== undefined) return stated;
  const [thick, thin] = [barometricKPa(low), barometricKPa(high)];
  const pressure = { value: 0.5 * (thick + thin), within: Math.max(WEATHER_KPA, 0.5 * (thick - thin)) };
  return { ...stated, truth: { ...stated.truth, pressure } };
}

/** The measurement a limit is of. */
function measurementOfLimit({ meter, red, black, setup: stated, altitude }: SpecLimit, circuit: CircuitModel): Measurement {
  const setup = altitude === undefined ? stated : inAirOf(altitude, stated, circuit);
  // Without a black lead it is of the pin against any ground.
  const ground = black ?? (TO_GROUND.has(meter) ? "bat-" : undefined);
  return { circuit: circuit.id, meter, red, ...(ground === undefined ? {} : { black: ground }), ...(setup === undefined ? {} : { setup }) };
}

/** Problems that show in the numbers themselves. */
function inNumbers(limit: SpecLimit): SpecProblem[] {
  const { low, high, nominal, unit, meter, vehicle } = limit;
  const known = baseOf(unit);
  if (known === null) return [{ code: "unit", reason: `"${unit}" is no unit; expected one of ${SPEC_UNITS.join(", ")}` }];
  const problems: SpecProblem[] = [];
  const shown = unitOfReading({ meter });
  if (shown !== "" && meter !== "scan" && shown !== known.base) {
    problems.push({ code: "unit-of-meter", reason: `${meter} shows ${shown}, not ${known.base}` });
  }
  if (low !== undefined && high !== undefined && low > high)
    problems.push({ code: "reversed", reason: `the low limit of ${low} ${unit} lies above the high one of ${high} ${unit}` });
  else if (nominal !== undefined && ((low !== undefined && nominal < low) || (high !== undefined && nominal > high))) {
    problems.push({ code: "nominal-outside", reason: `the nominal ${nominal} ${unit} lies outside its own limits` });
  }
  const [from, to] = vehicle.years ?? [0, 0];
  if (from > to) problems.push({ code: "years-reversed", reason: `the first year, ${from}, lies after the last, ${to}` });
  const least = Math.min(...[low, high, nominal].filter((value): value is number => value !== undefined));
  if (meter === "ohms" && least < 0) problems.push({ code: "negative-resistance", reason: `a resistance of ${least} ${unit} cannot be` });
  return problems;
}

/** Most volts a pin can have: its circuit's supply, or a charged battery where that feeds it. */
function mostVolts(circuit: CircuitModel, limit: SpecLimit): number {
  const pin = pinOf(limit.red);
  const role = circuit.pins.find((spec) => spec.pin === pin)?.role;
  const supply = circuit.built.fullScaleVolts;
  // A ground that is lost floats up to whatever feeds the circuit.
  const fed = /^(p?gnd\d?|ret)$/u.test(pin) && circuit.pins.some((spec) => spec.role === "feed");
  const battery = fed || supply > 10.5 || role === "feed" || role === "heater-feed" || role === "heater-control" || /^bat/u.test(pin);
  return battery ? CHARGED_VOLTS : supply * (1 + OVER_SUPPLY);
}

/** Problems of volts against what feeds the circuit. */
function inVolts(circuit: CircuitModel, limit: SpecLimit, window: SpecWindow): SpecProblem[] {
  const steady = limit.meter === "volts-dc" || (limit.meter === "scan" && window.unit === "V");
  if (!steady) return [];
  const problems: SpecProblem[] = [];
  const alternating = circuit.family.traits.alternating === true;
  if (!alternating && window.low < -BELOW_GROUND && window.low !== Number.NEGATIVE_INFINITY) {
    problems.push({
      code: "below-ground",
      reason: `nothing in this circuit pulls below ground, and the window goes down to ${Number(window.low.toPrecision(3))} V`,
    });
  }
  const most = mostVolts(circuit, limit);
  const top = window.high === Number.POSITIVE_INFINITY ? window.low : window.high;
  // 4.5 to 5.5 V is printed for a reference of 5 V: the window is generous, what it is of can be.
  const generous = window.low <= most && top <= most * GENEROUS;
  if (!alternating && top > most && !generous) {
    problems.push({ code: "above-feed", reason: `${Number(top.toPrecision(4))} V lies above what feeds it: ${Number(most.toPrecision(3))} V at most` });
  }
  const middle = 0.5 * (window.low + window.high);
  // A window that means one voltage, not one that means many.
  const narrow = window.high - window.low < NARROW_SHARE * middle;
  if (problems.length === 0 && /^ref\d?$/u.test(pinOf(limit.red)) && narrow) {
    if (!REFERENCES.some((volts) => Math.abs(middle / volts - 1) <= REFERENCE_SHARE)) {
      problems.push({
        code: "no-such-reference",
        reason: `a reference of ${Number(middle.toPrecision(3))} V is none there is; expected about ${REFERENCES.join(", ")} V`,
      });
    }
  }
  return problems;
}

/** A window a thousand times too large or too small for what the circuit makes: its unit was mixed up. */
function slipOf(window: SpecWindow, expect: Expect): SpecProblem[] {
  const sound = windowEnds(expect);
  // A window that goes down to nothing holds a thousandth of everything.
  if (sound === null || sound.low <= LEAST_OF_HIGH * sound.high || !apart(window, sound)) return [];
  const { low, high } = sound;
  const middle = 0.5 * (window.low + window.high);
  const times = middle / (0.5 * (low + high));
  if (!(times > 1 ? [middle / SLIP] : [middle * SLIP]).some((meant) => meant >= low && meant <= high)) return [];
  const computed = windowWords({ low, high, unit: window.unit });
  return [{ code: "unit-slip", reason: `${windowWords(window)} is a thousand times too ${times > 1 ? "large" : "small"}: the circuit makes ${computed}` }];
}

/** Problems against what the circuit computes. */
function againstCircuit(limit: SpecLimit, window: SpecWindow, expect: Expect): SpecProblem[] {
  const sound = windowEnds(expect);
  if (sound === null || !apart(window, sound)) return [];
  const { high } = sound;
  const computed = windowWords({ ...sound, unit: window.unit });
  const unplugged = (limit.setup?.open ?? []).length > 0;
  if (unplugged && high < NO_BIAS_VOLTS && window.low >= NO_BIAS_VOLTS && window.unit === "V") {
    return [{ code: "no-bias", reason: `nothing pulls this line up: unplugged it stands at ${computed}, not at ${windowWords(window)}` }];
  }
  return [{ code: "against-circuit", reason: `a sound circuit makes ${computed}; ${windowWords(window)} would call every sound one bad` }];
}

/** Faults of a circuit that a sound window would show and this one lets pass, by name; null where a sound window shows none. */
function letsPass({ shown: withFaults }: LimitPoint, window: SpecWindow, expect: Expect): { shown: number; passed: string[] } | null {
  const sound = windowEnds(expect);
  if (sound === null) return null;
  const shown = withFaults().filter(({ value }) => value < sound.low || value > sound.high);
  const passed = shown.filter(({ value }) => value >= window.low && value <= window.high).map(({ id }) => id);
  return shown.length === 0 ? null : { shown: shown.length, passed };
}

/** A limit as it was judged: what is wrong with it, and the faults a sound window would show and it lets pass. */
export interface JudgedLimit {
  readonly problems: readonly SpecProblem[];
  readonly passed: readonly string[];
}

/** Judges a limit by itself, by what feeds the circuit, by what the circuit computes; no problems for one that can be. @param pointAt what a measurement shows, where that is known already */
export function judgeLimit(model: Model, circuit: CircuitModel, limit: SpecLimit, pointAt: typeof limitPoint = limitPoint): JudgedLimit {
  const wrong = (problems: readonly SpecProblem[]): JudgedLimit => ({ problems, passed: [] });
  const numbers = inNumbers(limit);
  const window = windowOfLimit(limit);
  if (window === null || numbers.length > 0) return wrong(numbers);
  const measurement = measurementOfLimit(limit, circuit);
  const point = pointAt(model, circuit, measurement);
  let expect: Expect | null;
  try {
    expect = point.expect();
  } catch (error) {
    if (!(error instanceof BadInput)) throw error;
    return wrong([{ code: "no-such-point", reason: error.problem.message }]);
  }
  const slip = expect === null ? [] : slipOf(window, expect);
  if (slip.length > 0) return wrong(slip);
  const volts = inVolts(circuit, limit, window);
  if (volts.length > 0 || expect === null) return wrong(volts);
  const against = againstCircuit(limit, window, expect);
  if (against.length > 0) return wrong(against);
  const passes = letsPass(point, window, expect);
  if (passes !== null && passes.passed.length === passes.shown) {
    const count = passes.shown === 1 ? "the one fault" : `all ${passes.shown} faults`;
    return wrong([{ code: "too-wide", reason: `${windowWords(window)} lets ${count} pass that this reading could show` }]);
  }
  return { problems: [], passed: passes?.passed ?? [] };
}
