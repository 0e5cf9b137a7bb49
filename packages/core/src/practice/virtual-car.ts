import {
  type Circuit,
  type Measurement,
  parseUnit,
  type Recording,
  type ScanAnswer,
  type ScanRequest,
  type Simulated,
  unitOfFault,
  type Value,
} from "@fox-lamp/language";
import type { JobState } from "../job";
import { type Random, seededRandom } from "../numeric";
import { VirtualVehicle } from "../vehicle";
import { placedCar } from "./car";

/** A job with a virtual car behind it: what is on its sheet, what was hidden in the car, what was done to it. */
export interface CarBehindJob {
  readonly circuits: readonly Circuit[];
  readonly simulated: Simulated;
  readonly state: Pick<JobState, "repairs" | "battery" | "conditions">;
}

/** Every reading draws noise of its own; the car itself stays what it is. */
const NEXT_READING = 7919;

/** Whether repairing a unit mends a fault: the unit itself, or one of those a joint verdict stands for. */
export function mends(repaired: string, fault: string): boolean {
  const unit = unitOfFault(fault);
  if (repaired === unit) return true;
  const [joint, own] = [parseUnit(repaired), parseUnit(unit)];
  if (joint?.kind !== "contacts" || own?.circuit !== joint.circuit) return false;
  return own.kind === "module" || (own.kind === "contact" && own.place === "module");
}

/** The faults a car still has after what was repaired, charged or replaced in its job. */
export function faultsLeft({ faults }: Simulated, state: Pick<JobState, "repairs" | "battery">): Simulated["faults"] {
  const repaired = state.repairs.flatMap(({ unit }) => (unit === undefined ? [] : [unit]));
  if (state.battery?.charged === true) repaired.push("car/battery");
  return faults.filter(({ id }) => !repaired.some((unit) => mends(unit, id)));
}

/** The circuits the car really has: those on the sheet, and those it was given beforehand for a job that has none yet. */
export function circuitsBehind({ circuits, simulated }: CarBehindJob): Circuit[] {
  const known = new Set(circuits.map(({ id }) => id));
  return [...circuits, ...(simulated.circuits ?? []).filter(({ id }) => !known.has(id))];
}

/**
 * What instruments show on a job's virtual car, all in the same moment.
 *
 * @param call how often the car was read before
 * @throws BadInput for measurements that cannot be
 */
export function readVirtualCar(behind: CarBehindJob, measurements: readonly Measurement[], call: number): Value[] {
  const { simulated, state } = behind;
  const { seed, misses } = simulated;
  const circuits = circuitsBehind(behind);
  const car = placedCar(
    { circuits, faults: faultsLeft(simulated, state), known: state.conditions, ...(misses === undefined ? {} : { life: { misses } }) },
    seededRandom(seed),
    seededRandom(seed + NEXT_READING * call + measurements.length),
  );
  const [first] = circuits;
  return car.readTogether(
    measurements.map((measurement) => (measurement.circuit === undefined && first ? { ...measurement, circuit: first.id } : measurement)),
  );
}

/** What a car does while its data is recorded: speed and pedal at a share of the way, 0 to 1. */
export function driveAt(share: number): { rpm: number; position: number } {
  const push = share < 0.2 ? 0 : share < 0.5 ? (share - 0.2) / 0.3 : share < 0.7 ? 1 : share < 0.85 ? 1 - (share - 0.7) / 0.15 : 0;
  return { rpm: Math.round(800 + 2400 * push), position: Math.round(70 * push) };
}

const SAMPLES_A_SECOND = 2;
/** Above this the engine is no longer idling, rpm. */
const IDLE_UP_TO_RPM = 900;

/**
 * What a scan adapter says of a job's virtual car.
 *
 * @param call how often the car was read before
 * @throws BadInput for circuits or faults that cannot be
 */
export function scanVirtualCar(behind: CarBehindJob, request: ScanRequest, call: number): ScanAnswer {
  const { simulated, state } = behind;
  const circuits = circuitsBehind(behind);
  const { seed } = simulated;
  const consequences = simulated.consequences === undefined ? {} : { consequences: simulated.consequences };
  const car = new VirtualVehicle({ circuits, faults: faultsLeft(simulated, state), seed, ...consequences });
  switch (request.do) {
    case "codes":
      drivenTwice(car);
      return { codes: car.codes(), lamp: car.lamp() };
    case "clear":
      return { codes: [], lamp: false, done: true };
    case "command":
      return { done: car.command(request.circuit, request.on) };
    case "live": {
      const sound = new VirtualVehicle({ circuits, faults: [], seed, ...consequences });
      const random = seededRandom(seed + NEXT_READING * call);
      return { recording: recorded({ car, sound, circuits, random, misses: simulated.misses ?? 0 }, request, state.conditions.temperature) };
    }
  }
}

/** Two trips: some codes light the lamp on the second one only. */
function drivenTwice(car: VirtualVehicle): void {
  for (let trip = 0; trip < 2; trip += 1) {
    car.key("off");
    car.key("on");
    car.run(2);
    car.key("idle");
    car.run(4);
  }
}

/** What a channel is called: its circuit's title, with the pin where a circuit has several. */
function titled(name: string, circuit: string, all: readonly { circuit: string }[], circuits: readonly Circuit[]): string {
  const title = circuits.find(({ id }) => id === circuit)?.title ?? circuit;
  return all.filter((other) => other.circuit === circuit).length > 1 ? `${title} ${name.slice(circuit.length + 1)}` : title;
}

interface Recorded {
  readonly car: VirtualVehicle;
  /** The same car without its faults, seen while a fault that comes and goes is away. */
  readonly sound: VirtualVehicle;
  readonly circuits: readonly Circuit[];
  readonly random: Random;
  readonly misses: number;
}

/** The module's data over time; a fault that comes and goes is away for its share of the moments. */
function recorded(
  { car, sound, circuits, random, misses }: Recorded,
  { seconds = 0, drive = false }: { seconds?: number | undefined; drive?: boolean | undefined },
  temperature?: number,
): Recording {
  const steps = Math.max(1, Math.round(seconds * SAMPLES_A_SECOND));
  const times = Array.from({ length: steps }, (_, index) => index / SAMPLES_A_SECOND);
  const rows = times.map((time) => {
    const { rpm, position } = drive ? driveAt(time / Math.max(seconds, 1)) : driveAt(0);
    const away = misses > 0 && random.uniform() < misses;
    const seen = away ? sound : car;
    seen.key(rpm > IDLE_UP_TO_RPM ? "rev" : "idle", rpm);
    seen.arrange({ truth: { position, ...(temperature === undefined ? {} : { temperature }) } });
    return { rpm, values: seen.live() };
  });
  const first = rows[0]?.values ?? [];
  return {
    title: drive ? "Drive" : "Idle",
    seconds: times,
    channels: [
      { name: "engine speed", circuit: null, unit: "rpm", values: rows.map(({ rpm }) => Math.round(rpm + 6 * random.normal())) },
      ...first.map(({ name, circuit, unit }, index) => ({
        name: titled(name, circuit, first, circuits),
        circuit,
        unit,
        values: rows.map(({ values }) => {
          const value = values[index]?.value ?? 0;
          return Number((value * (1 + 0.002 * random.normal())).toPrecision(4));
        }),
      })),
    ],
  };
}
