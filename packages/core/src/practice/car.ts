import type { Measurement, Value } from "@fox-lamp/language";
import { type Assignment, buildModel, type CircuitModel, type Model, statedWorld } from "../circuit";
import { findingProbabilities } from "../diagnosis";
import { type Fault, type FaultVariant, faultsOf, type PlacedFault, QUIET_SHARE, showsIn } from "../faults";
import {
  BEEP_OHMS,
  lampShare,
  lampWord,
  logOhmsSigma,
  portOfProbe,
  probeOf,
  SCAN_SIGMA_VOLTS,
  scanValue,
  shownOhms,
  shownVolts,
  solveSetup,
  voltsSigma,
} from "../instruments";
import { voltsBetween } from "../network";
import type { Random } from "../numeric";

/** The fault hidden in a practice car; null when nothing is wrong. */
export interface HiddenFault {
  readonly fault: Fault;
  readonly severity: number;
  readonly variant: FaultVariant;
}

/** A car that nobody has drawn on a grid: odd tolerances, its own battery, a meter slightly off. */
export interface HiddenCar {
  readonly circuit: string;
  readonly hidden: HiddenFault | null;
  /** The sensed quantity as it really is, where the technician does not set it. */
  readonly world: number;
  /** The same as the technician's thermometer or gauge shows it. */
  readonly statedWorld: number;
  /** What an instrument shows; draws noise, so it differs from call to call. */
  read(measurement: Measurement): Value;
}

/** Tolerances of real cars are a little worse than the engine believes. */
const WORSE = 1.15;

/** Draws a severity between the grid's points: uniform in ln ohms or in severity. */
export function drawSeverity(fault: Fault, random: Random): number {
  const scale = fault.severity;
  if (scale === null) return 1;
  if (scale.key === "severity") return scale.low + (scale.high - scale.low) * random.uniform();
  return scale.low * (scale.high / scale.low) ** random.uniform();
}

function disturbedModel(base: Model, random: Random): Model {
  const { network } = base;
  const values = { ohms: network.values.ohms.slice(), volts: network.values.volts.slice(), gain: network.values.gain.slice() };
  network.elements.forEach((element, index) => {
    const contact =
      element.id.includes("/contact:") || element.id.includes("/wire:") || element.id.startsWith("car/ground") || element.id.endsWith("/low-side");
    if (contact) values.ohms[index] = (values.ohms[index] as number) * Math.exp(0.7 * random.normal());
  });
  const circuits = base.circuits.map((circuit): CircuitModel => {
    const factors = new Map<string, number>();
    for (const tolerance of circuit.built.tolerances) {
      for (const target of tolerance.targets) {
        const z = WORSE * random.normal() * target.sigma;
        const index = network.elementIndex.get(`${circuit.id}/${target.element}`);
        if (index === undefined) continue;
        const array = values[target.field];
        array[index] = target.kind === "relative" ? (array[index] as number) * Math.exp(z) : (array[index] as number) + z;
        factors.set(`${target.element}.${target.field}`, target.kind === "relative" ? Math.exp(z) : z);
      }
    }
    const disturb = (assignment: Assignment): Assignment => {
      const factor = factors.get(`${assignment.element}.${assignment.field}`);
      if (factor === undefined) return assignment;
      return { ...assignment, value: assignment.field === "ohms" ? assignment.value * factor : assignment.value + factor };
    };
    return { ...circuit, built: { ...circuit.built, sensor: (world) => circuit.built.sensor(world).map(disturb) } };
  });
  return { circuits, network: { ...network, values } };
}

/** A battery of its own, as a fault that is none. */
function batteryLevel(volts: number): PlacedFault {
  const variant: FaultVariant = { direction: 1, section: 0, weight: 1 };
  const fault: Fault = {
    id: "car/battery/level",
    unit: "car/battery",
    circuit: "car",
    kind: "level",
    title: "",
    severity: null,
    prior: 0,
    matters: false,
    variants: [variant],
    during: null,
    effect: () => ({ assignments: [{ element: "car/battery", field: "volts", value: volts }], scanVolts: null }),
  };
  return { fault, severity: 1, variant };
}

function drawHidden(faults: readonly Fault[], random: Random): HiddenFault | null {
  if (random.uniform() < 0.05) return null;
  const fault = faults[random.weighted(faults.map((candidate) => candidate.prior))] as Fault;
  const variant = fault.variants[random.below(fault.variants.length)] as FaultVariant;
  return { fault, severity: drawSeverity(fault, random), variant };
}

/** Puts a car together with a hidden fault drawn by the priors, outside the engine's own grid. */
export function drawCar(circuit: Parameters<typeof buildModel>[0][number], random: Random): HiddenCar {
  const base = buildModel([circuit]);
  const owner = base.circuits[0] as CircuitModel;
  const hidden = drawHidden(faultsOf(base), random);
  const model = disturbedModel(base, random);
  const { world } = owner.built;
  const cases = hidden?.fault.kind === "true-value" ? world.abnormal : world.normal;
  const drawn = cases[random.weighted(cases.map((value) => value.weight))] ?? { value: world.nominal, spread: 0 };
  const actual = Math.min(world.high, Math.max(world.low, drawn.value + 0.6 * drawn.spread * random.normal()));
  const battery = batteryLevel(11.9 + 1.3 * random.uniform());
  const gain = 1 + 0.003 * random.normal();
  const stated = actual + 0.7 * world.accuracy * random.normal();

  const read = (measurement: Measurement): Value => {
    const probe = probeOf(model, measurement, "measurement");
    if (probe === null) throw new Error(`${measurement.meter} cannot be simulated`);
    if (probe.kind === "look") {
      const names = ["ok", "corroded", "pin-out", "chafed", "wet"];
      return names[random.weighted([...findingProbabilities(names, probe.place, hidden?.fault ?? null)])] ?? "ok";
    }
    const asked = statedWorld(world, probe.setup.truth);
    const settable = world.settable.some((setting) => setting.value === asked);
    const now = settable && asked !== null ? asked + 0.5 * world.accuracy * random.normal() : actual;
    const shows = hidden !== null && (hidden.fault.during === null || (showsIn(hidden.fault, probe.setup) && random.uniform() > QUIET_SHARE));
    const faults: PlacedFault[] = hidden?.fault.id === "car/battery/weak" ? [hidden] : shows && hidden !== null ? [battery, hidden] : [battery];
    const { solution, scanVolts } = solveSetup(model, probe, faults, new Map([[owner.id, now]]));
    if (probe.meter === "scan") {
      const { nodeIndex } = solution.net;
      const seen = scanVolts ?? voltsBetween(solution.volts, nodeIndex.get(probe.red) ?? -1, nodeIndex.get(probe.black) ?? -1);
      return Number(scanValue(probe, seen + 0.8 * SCAN_SIGMA_VOLTS * random.normal()).toFixed(2));
    }
    const port = portOfProbe(solution, probe.red, probe.black);
    switch (probe.meter) {
      case "volts-dc": {
        const volts = shownVolts(port);
        return Number((volts * gain + 0.8 * voltsSigma(volts) * random.normal()).toFixed(Math.abs(volts) < 0.6 ? 4 : 2));
      }
      case "ohms": {
        const ohms = shownOhms(port);
        return typeof ohms === "string" ? ohms : Number((ohms * Math.exp(0.8 * logOhmsSigma(ohms) * random.normal())).toPrecision(4));
      }
      case "continuity": {
        const ohms = shownOhms(port);
        return typeof ohms === "number" && ohms < BEEP_OHMS ? "beep" : "open";
      }
      case "lamp":
        return lampWord(lampShare(port) * (1 + 0.03 * random.normal()));
    }
  };
  return { circuit: owner.id, hidden, world: actual, statedWorld: stated, read };
}
