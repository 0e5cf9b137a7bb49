import { BadInput, type Circuit, type Reading } from "@fox-lamp/language";
import { ANY_GROUND, buildModel, type CircuitModel, type Model, parameterTitle, statedParameters } from "../../circuit";
import { expectHealthy, windowEnds } from "../../procedures";

/** A value of a circuit's sheet that a book's limit of a reading states. */
export interface BookedValue {
  /** Place of the reading among the job's. */
  readonly reading: number;
  readonly circuit: string;
  readonly parameter: string;
  readonly title: string;
  readonly low: number;
  readonly high: number;
  readonly source?: string;
}

type Meant = Pick<BookedValue, "parameter"> & { readonly circuit: CircuitModel };

/** The reference parameter of whoever feeds a pin: the circuit itself, or the shared reference it joins. */
function feedOf(model: Model, circuit: CircuitModel, pin: string): Meant | null {
  const bus = circuit.shares.find((share) => share.pin === pin)?.bus;
  const feeder = bus === undefined ? circuit : model.circuits.find(({ id }) => id === bus);
  const parameter = bus === undefined ? circuit.family.referenceParameter : "vref";
  return feeder === undefined || parameter === undefined ? null : { circuit: feeder, parameter };
}

/** What an unplugged signal stands at: the pull-up's supply, or the bias. */
function pulledTo(circuit: CircuitModel): Meant | null {
  const parameter = ["pullupV", "biasV"].find((name) => parameterTitle(circuit.family, name) !== "");
  return parameter === undefined ? null : { circuit, parameter };
}

/** The value of a sheet that a measurement reads directly; null where it reads none. */
function meantBy(model: Model, circuit: CircuitModel, { meter, red, black = "bat-", setup = {} }: Reading): Meant | null {
  const [redPin = "", redPlace] = (red.split(":").at(-1) ?? "").split("@");
  const [blackPin = "", blackPlace] = (black.split(":").at(-1) ?? "").split("@");
  const spec = circuit.pins.find(({ pin }) => pin === redPin);
  const open = setup.open ?? [];
  if ((setup.add ?? []).length > 0) return null;
  if (meter === "volts-dc" && (setup.key === "on" || setup.key === undefined) && ANY_GROUND.test(black)) {
    if (spec?.role === "reference" || (spec?.role === "feed" && spec.origin === "module")) return feedOf(model, circuit, redPin);
    return spec?.role === "signal" && redPlace === "sensor" && open.includes("sensor") ? pulledTo(circuit) : null;
  }
  if (meter !== "ohms" || redPlace !== "part" || blackPlace !== "part") return null;
  const ends = circuit.built.partOhms.find((pins) => [redPin, blackPin].every((pin) => pins.some((own) => own === pin)));
  // A thermistor's ohms hang on its temperature: that is its curve, not a limit.
  if (ends === undefined || circuit.built.world.quantity === "temperature") return null;
  const heater = redPin.startsWith("htr");
  const parameter = (heater ? ["heater"] : ["coil", "track", "resistance"]).find((name) => parameterTitle(circuit.family, name) !== "");
  return parameter === undefined || (parameter === "track" && ends[1].startsWith("sig")) || ends[0].startsWith("sig2") ? null : { circuit, parameter };
}

/** What is put on the sheet: nothing where it says a window of its own, or something the book's window does not hold. */
function stated({ circuit, family, parameters }: CircuitModel, name: string, low: number, high: number, source: string | undefined): unknown {
  const { origins } = statedParameters(circuit.with);
  const usual = (parameters as Readonly<Record<string, unknown>>)[name];
  const own = (origins.get(name)?.from ?? "family") !== "family";
  const from = { from: "specified", ...(source === undefined ? {} : { source }) };
  const isWindow = Array.isArray(usual) || (usual === undefined && name === "resistance");
  if (isWindow) return own ? undefined : { value: [low, high], ...from };
  if (own && (typeof usual !== "number" || usual < low || usual > high || origins.get(name)?.spread !== null)) return undefined;
  const value = typeof usual === "number" && usual >= low && usual <= high ? usual : 0.5 * (low + high);
  // What another circuit feeds is kept as it is there.
  if (family.traits.kind === "reference" && value !== usual) return undefined;
  return { value, ...from, spread: Math.max(high - value, value - low) };
}

function putOn(circuits: readonly Circuit[], id: string, name: string, value: unknown): Circuit[] {
  return circuits.map((circuit) => (circuit.id === id ? { ...circuit, with: { ...circuit.with, [name]: value } } : circuit));
}

/** Whether a sheet can be so, and a sound circuit by it then reads within the book's window, or near it. */
function holds(circuits: readonly Circuit[], reading: Reading, low: number, high: number): boolean {
  try {
    const expect = expectHealthy(buildModel(circuits), reading, "limits");
    const sound = expect === null ? null : windowEnds(expect);
    const middle = 0.5 * (low + high);
    return sound !== null && sound.low <= middle && middle <= sound.high;
  } catch (error) {
    if (!(error instanceof BadInput)) throw error;
    // A sheet its schema refuses: the book's window is not this circuit's.
    return false;
  }
}

/**
 * The circuits of a job with what books say of them: a published limit that reads a value of a sheet directly (a reference, the volts behind
 * a pull-up, a winding's, heater's or track's ohms) is that value, with the limit as its spread, where the sheet leaves it out or says no
 * spread. Whatever else a limit is of is judged beside what is computed.
 */
export function withBooks(
  circuits: readonly Circuit[],
  readings: readonly Reading[],
): { readonly circuits: readonly Circuit[]; readonly booked: readonly BookedValue[] } {
  const limited = readings
    .map((reading, index) => ({ reading, index }))
    .filter(({ reading: { limits } }) => limits?.low !== undefined && limits.high !== undefined);
  if (limited.length === 0) return { circuits, booked: [] };
  let now = circuits;
  let model = buildModel(now);
  const booked: BookedValue[] = [];
  for (const { reading, index } of limited) {
    const { low = 0, high = 0, source } = reading.limits ?? {};
    const circuit = model.circuits.find(({ id }) => id === reading.circuit) ?? (model.circuits.length === 1 ? model.circuits[0] : undefined);
    const meant = circuit === undefined || high <= low || low < 0 ? null : meantBy(model, circuit, reading);
    if (meant === null) continue;
    const { id, family } = meant.circuit;
    const value = stated(meant.circuit, meant.parameter, low, high, source);
    const tried = value === undefined ? now : putOn(now, id, meant.parameter, value);
    if (value === undefined || !holds(tried, reading, low, high)) continue;
    now = tried;
    model = buildModel(now);
    const title = parameterTitle(family, meant.parameter);
    booked.push({ reading: index, circuit: id, parameter: meant.parameter, title, low, high, ...(source === undefined ? {} : { source }) });
  }
  return { circuits: now, booked };
}
