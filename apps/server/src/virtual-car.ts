import { foldJob, type JobState } from "@fox-lamp/core/job";
import { seededRandom } from "@fox-lamp/core/numeric";
import { placedCar } from "@fox-lamp/core/practice";
import { VirtualVehicle } from "@fox-lamp/core/vehicle";
import type { Circuit, JobDetail, Measurement, Recording, ScanAnswer, Simulated, scanRequestSchema, Value } from "@fox-lamp/language";
import type { z } from "zod";

/** How often each job's car was read by this server: every reading draws noise of its own, the car itself stays what it is. */
const calls = new Map<string, number>();

function nextCall(job: string): number {
  const call = (calls.get(job) ?? 0) + 1;
  calls.set(job, call);
  return call;
}

/** Whether repairing a unit mends a fault: the unit itself, or one of those a joint verdict stands for. */
function mends(repaired: string, fault: string): boolean {
  const unit = fault.slice(0, fault.lastIndexOf("/"));
  if (repaired === unit) return true;
  const [circuit, name] = [unit.slice(0, unit.indexOf("/")), unit.slice(unit.indexOf("/") + 1)];
  return repaired === `${circuit}/contacts:module` && (name.startsWith("module:") || /^contact:.+@module$/u.test(name));
}

/** The car as it stands after what was repaired, charged or replaced in the job. */
function carNow(simulated: Simulated, state: JobState): Simulated {
  const repaired = state.repairs.flatMap(({ unit }) => (unit === undefined ? [] : [unit]));
  if (state.battery?.charged === true) repaired.push("car/battery");
  return { ...simulated, faults: simulated.faults.filter(({ id }) => !repaired.some((unit) => mends(unit, id))) };
}

/**
 * What instruments show on a job's virtual car, all in the same moment.
 * @throws BadInput for measurements that cannot be
 */
export function readVirtualCar(job: JobDetail, simulated: Simulated, measurements: readonly Measurement[]): Value[] {
  const call = nextCall(job.id);
  const state = foldJob(job.entries);
  const { faults, seed, misses } = carNow(simulated, state);
  const car = placedCar(
    { circuits: circuitsBehind(job, simulated), faults, known: state.conditions, ...(misses === undefined ? {} : { life: { misses } }) },
    seededRandom(seed),
    seededRandom(seed + 7919 * call + measurements.length),
  );
  const [first] = circuitsBehind(job, simulated);
  return car.readTogether(
    measurements.map((measurement) => (measurement.circuit === undefined && first ? { ...measurement, circuit: first.id } : measurement)),
  );
}

/** The circuits the car really has: those on the sheet, and those it was given beforehand for a job that has none yet. */
function circuitsBehind(job: JobDetail, { circuits = [] }: Simulated): Circuit[] {
  const known = new Set(job.circuits.map(({ id }) => id));
  return [...job.circuits, ...circuits.filter(({ id }) => !known.has(id))];
}

/** What the car does while its data is recorded: speed and pedal at a share of the way, 0 to 1. */
function driveAt(share: number): { rpm: number; position: number } {
  const push = share < 0.2 ? 0 : share < 0.5 ? (share - 0.2) / 0.3 : share < 0.7 ? 1 : share < 0.85 ? 1 - (share - 0.7) / 0.15 : 0;
  return { rpm: Math.round(800 + 2400 * push), position: Math.round(70 * push) };
}

const SAMPLES_A_SECOND = 2;

/**
 * What a scan adapter says of a job's virtual car.
 * @throws BadInput for circuits or faults that cannot be
 */
export function scanVirtualCar(job: JobDetail, simulated: Simulated, request: z.output<typeof scanRequestSchema>): ScanAnswer {
  const call = nextCall(job.id);
  const state = foldJob(job.entries);
  const now = carNow(simulated, state);
  const circuits = circuitsBehind(job, simulated);
  const consequences = now.consequences === undefined ? {} : { consequences: now.consequences };
  const car = new VirtualVehicle({ circuits, faults: now.faults, seed: now.seed, ...consequences });
  switch (request.do) {
    case "codes": {
      // Two trips: some codes light the lamp on the second one only.
      for (let trip = 0; trip < 2; trip += 1) {
        car.key("off");
        car.key("on");
        car.run(2);
        car.key("idle");
        car.run(4);
      }
      return { codes: car.codes(), lamp: car.lamp() };
    }
    case "clear":
      return { codes: [], lamp: false, done: true };
    case "command":
      return { done: car.command(request.circuit, request.on) };
    case "live": {
      const sound = new VirtualVehicle({ circuits, faults: [], seed: now.seed, ...consequences });
      return { recording: recorded({ car, sound, circuits, call }, now, request.seconds, request.drive, state.conditions.temperature) };
    }
  }
}

/** What a channel is called: its circuit's title, with the pin where a circuit has several. */
function titled(name: string, circuit: string, all: readonly { circuit: string }[], circuits: readonly Circuit[]): string {
  const title = circuits.find(({ id }) => id === circuit)?.title ?? circuit;
  return all.filter((other) => other.circuit === circuit).length > 1 ? `${title} ${name.slice(circuit.length + 1)}` : title;
}

/** The module's data over time; a fault that comes and goes is away for its share of the moments. */
function recorded(
  { car, sound, circuits, call }: { car: VirtualVehicle; sound: VirtualVehicle; circuits: readonly Circuit[]; call: number },
  { seed, misses = 0 }: Simulated,
  seconds: number,
  drive: boolean,
  temperature?: number,
): Recording {
  const random = seededRandom(seed + 7919 * call);
  const steps = Math.max(1, Math.round(seconds * SAMPLES_A_SECOND));
  const times = Array.from({ length: steps }, (_, index) => index / SAMPLES_A_SECOND);
  const rows = times.map((time) => {
    const { rpm, position } = drive ? driveAt(time / Math.max(seconds, 1)) : { rpm: 800, position: 0 };
    const away = misses > 0 && random.uniform() < misses;
    const seen = away ? sound : car;
    seen.key(rpm > 900 ? "rev" : "idle", rpm);
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
