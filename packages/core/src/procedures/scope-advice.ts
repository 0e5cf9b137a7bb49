import type { Setup } from "@fox-lamp/language";
import { type CircuitModel, type Drive, engineOf, type Model, situationOf, worldIn } from "../circuit";
import { SCOPE_RANGES } from "../vehicle";
import { traceBands } from "./trace-bands";

/** How a scope is set for a circuit before anything is captured. */
export interface ScopeAdvice {
  /** Full scale that holds the signal, volts. */
  readonly rangeVolts: number;
  readonly coupling: "dc" | "ac";
  /** Samples a second, and for how long, seconds. */
  readonly rate: number;
  readonly seconds: number;
  /** Level the capture starts at, volts; null where it is best left running. */
  readonly triggerVolts: number | null;
  /** Whether peak capture keeps what falls between the samples of a slow time base. */
  readonly peakCapture: boolean;
  /** What moves fastest in it, hertz; null where it stands or is moved by hand. */
  readonly hertz: number | null;
  readonly kind: "teeth" | "pulses" | "ring" | "switching" | "moved" | "level";
  /** The pin that is captured, and what its lead is measured against. */
  readonly pin: string;
  readonly against: string;
}

const RATES = [1000, 2000, 5000, 10_000, 20_000, 50_000, 100_000, 200_000, 500_000, 1_000_000];
/** Samples for each period of what moves fastest: edges and spikes of a tenth of it are seen. */
const PER_PERIOD = 40;
const PER_RING = 20;
/** Room over what a sound circuit reaches, as a fault goes beyond it. */
const ROOM = 1.25;
const RING_HERTZ = 6500;

function upTo(least: number, list: readonly number[]): number {
  return list.find((one) => one >= least) ?? (list.at(-1) as number);
}

function kindOf({ family }: CircuitModel, { shape, swing, hertz }: Drive, setup: Setup): ScopeAdvice["kind"] {
  if (family.traits.kind === "knock") return "ring";
  if (family.traits.kind === "mixture") return "switching";
  if (["sweep", "snap"].includes(setup.stimulus?.kind ?? "")) return "moved";
  if (swing === null || hertz === 0) return "level";
  return family.traits.kind === "wheel" && shape !== "ring" ? "teeth" : "pulses";
}

/** How long a capture of a kind should be, seconds. */
function secondsFor(kind: ScopeAdvice["kind"], setup: Setup, hertz: number): number {
  const { rpm } = engineOf(setup);
  switch (kind) {
    case "teeth":
      // Four turns of the crank, so that what comes once a turn is seen to come back.
      return rpm > 0 ? Math.max(0.2, Number((240 / rpm).toPrecision(1))) : 5;
    case "pulses":
      return Math.max(0.1, Number((40 / Math.max(1, hertz)).toPrecision(1)));
    case "ring":
      return 1;
    case "switching":
      return 10;
    case "moved":
      return 5;
    case "level":
      return 10;
  }
}

/** The set-up that shows a circuit's signal as it is, from what its sheet says it does. */
export function scopeAdvice(model: Model, circuit: CircuitModel, setup: Setup): ScopeAdvice {
  const { world } = circuit.built;
  const drive = circuit.built.drive(situationOf(world, setup, worldIn(model, circuit, setup, circuit.id)));
  const kind = kindOf(circuit, drive, setup);
  const pin =
    ["sig", "sig+", "sig1", "ctl"].find((name) => circuit.pins.some((one) => one.pin === name)) ??
    circuit.pins.find(({ role }) => role === "signal")?.pin ??
    circuit.pins[0]?.pin ??
    "";
  const pair = pin === "sig+" && circuit.pins.some((one) => one.pin === "sig-");
  const place = circuit.paths.find((path) => path.pin === pin)?.places.has("sensor") === true ? "sensor" : "module";
  const against = pair ? `sig-@${place}` : "bat-";
  const [bands = []] = traceBands(model, [{ circuit: circuit.id, red: `${pin}@${place}`, black: against }], setup);
  const [least, most] = [Math.min(0, ...bands.map(({ low }) => low)), Math.max(0, ...bands.map(({ high }) => high))];
  const pulsed = kind === "teeth" || kind === "pulses";
  const hertz = kind === "ring" ? RING_HERTZ : pulsed ? drive.hertz : null;
  const rate = kind === "ring" ? upTo(PER_RING * RING_HERTZ, RATES) : hertz === null ? 5000 : upTo(Math.max(5000, PER_PERIOD * hertz), RATES);
  const [lower, upper] = [bands[0], bands[1]];
  return {
    rangeVolts: upTo(Math.max(ROOM * Math.max(-least, most), kind === "ring" ? 0.5 : 1), SCOPE_RANGES),
    coupling: "dc",
    rate,
    seconds: secondsFor(kind, setup, drive.hertz),
    triggerVolts: pulsed && lower !== undefined && upper !== undefined ? Number((0.5 * (lower.high + upper.low)).toPrecision(2)) : null,
    peakCapture: !pulsed && kind !== "ring",
    hertz,
    kind,
    pin,
    against: against === "bat-" ? "bat-" : "sig-",
  };
}
