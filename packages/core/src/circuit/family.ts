import type { Pin, Setup } from "@fox-lamp/language";
import type { z } from "zod";
import type { EditField } from "../network";
import type { Assignment } from "./assignment";
import type { CircuitBuilder } from "./builder";
import type { EngineState } from "./engine";
import type { PinSpec } from "./pins";

export type Quantity = "temperature" | "position" | "pressure" | "level" | "flow" | "none";

/** The physical quantity a sensor follows, with what is normal for it while a job is done. */
export interface World {
  readonly quantity: Quantity;
  /** Unit of the quantity; empty for a level, or where nothing is sensed. */
  readonly unit: string;
  /** Range the sensor can follow. */
  readonly low: number;
  readonly high: number;
  /** The value assumed where nobody says otherwise. */
  readonly nominal: number;
  /** Values expected with nothing wrong outside the circuit, evenly spread, with weights. */
  readonly normal: readonly WorldValue[];
  /** Values that mean trouble outside the circuit (an overheated engine, an empty system). */
  readonly abnormal: readonly WorldValue[];
  /** What is stated as well while nothing is wrong, and is trouble where nobody states it: no oil pressure, with the engine off. */
  readonly atRest?: WorldValue;
  /** How well a technician knows the value (one standard deviation). */
  readonly accuracy: number;
  /** Values a technician can set without tools, for tests that need a stimulus; empty when there are none. */
  readonly settable: readonly { readonly value: number; readonly how: string; readonly stimulus: Setup["stimulus"]; readonly minutes: number }[];
  /** It follows the air outside while the engine stands. */
  readonly outsideAir?: boolean;
  /** The value a state of the engine brings by itself (no air flow while it stands), with its standard deviation. */
  readonly forced?: (engine: EngineState, setup: Setup) => { readonly value: number; readonly spread: number } | null;
}

export interface WorldValue {
  readonly value: number;
  readonly weight: number;
  /** Half-width of the stretch this value stands for, as a standard deviation. */
  readonly spread: number;
}

/** What a circuit is exposed to while a reading is taken. */
export interface Situation {
  readonly engine: EngineState;
  readonly setup: Setup;
  /** Value of the sensed quantity. */
  readonly world: number;
  /** True when the technician, or the state of the engine, fixes that value. */
  readonly stated: boolean;
  /** How the other circuits of the car stand in the same setup, where a hypothesis is about several. */
  readonly beside?: Beside;
}

/** The circuits of a car in one setup. */
export interface Beside {
  /** The circuit that is measured: the others stand in the first moment of their drive. */
  readonly probed: string;
  readonly at: (circuit: string) => Situation;
}

/** One state a circuit is in for a share of the time, as it counts for an average. */
export interface Moment {
  readonly share: number;
  readonly assignments: readonly Assignment[];
}

/**
 * How a circuit moves while a reading is taken: one moment when it stands still, else the extremes it swings between. The
 * trace between them follows from `shape`; as the network is linear on its piece, average and swing follow from the extremes.
 */
export interface Drive {
  readonly moments: readonly Moment[];
  /** Indices of the two extremes; null when it stands still. */
  readonly swing: readonly [number, number] | null;
  readonly shape: "square" | "sine" | "ring";
  /** Repetitions a second; 0 when it stands still. */
  readonly hertz: number;
  /** Relative standard deviation of `hertz`. */
  readonly hertzSpread: number;
  /**
   * What the sheet leaves open, shared by all readings of the circuit: spread of ln hertz, and of the share of the time in the first
   * extreme; none where it says both.
   */
  readonly unsure?: { readonly hertz: number; readonly share: number };
  /** The toothed wheel that makes the repetitions; none for those that come by themselves. */
  readonly wheel?: { readonly teeth: number; readonly missing: number };
}

/** A circuit that stands still. */
export function steady(assignments: readonly Assignment[]): Drive {
  return { moments: [{ share: 1, assignments }], swing: null, shape: "square", hertz: 0, hertzSpread: 0 };
}

/** A circuit that switches between two states: `first` for a share of the time, then `second`. */
export function switching(first: readonly Assignment[], second: readonly Assignment[], share: number, hertz: number, hertzSpread: number): Drive {
  return {
    moments: [
      { share, assignments: first },
      { share: 1 - share, assignments: second },
    ],
    swing: [0, 1],
    shape: "square",
    hertz,
    hertzSpread,
  };
}

/** A tolerance shared by all hypotheses: one standard normal variable moving some numbers. */
export interface Tolerance {
  readonly id: string;
  /** The parameters the sheet leaves out that it stands for; any of them stated takes it away. Absent where it is how parts of one kind differ. */
  readonly unsaid?: readonly string[];
  /** `relative` multiplies by exp(sigma z); `absolute` adds sigma z. */
  readonly targets: readonly { readonly element: string; readonly field: EditField; readonly kind: "relative" | "absolute"; readonly sigma: number }[];
}

/** The scale of a fault: ohms on a logarithmic grid, a share from 0 to 1, or none. */
export type SeverityScale =
  | { readonly key: "ohms"; readonly low: number; readonly high: number }
  | { readonly key: "severity"; readonly low: number; readonly high: number }
  | null;

/** How a fault is applied: severity, where the circuit is, which way or which part, and in which of the drive's moments. */
export interface FaultUse {
  readonly severity: number;
  readonly situation: Situation;
  readonly direction: 1 | -1;
  /** Which of several alike parts (a track of two), from 0. */
  readonly part: number;
  readonly moment: number;
  /** What another fault that comes before it on the way of the signal has set already; absent where it is alone. */
  readonly before?: readonly Assignment[] | undefined;
}

/** A fault that only this family has (its sensor and module stage); wires and contacts are common to all. */
export interface FamilyFault {
  readonly unit: string;
  readonly kind: string;
  readonly title: string;
  readonly severity: SeverityScale;
  /** Both directions are possible (a sensor that reads high or low). */
  readonly twoWay?: boolean;
  /** Number of alike parts it can sit in; 1 unless given. */
  readonly parts?: number;
  readonly assign: (use: FaultUse) => readonly Assignment[];
  /** What the module reports whatever the pin does, volts. */
  readonly scanVolts?: (severity: number) => number;
  /** Factor on the drive's repetitions a second. */
  readonly hertzFactor?: (severity: number, direction: 1 | -1) => number;
  /** Shows only under this stimulus. */
  readonly during?: string;
  /** It lies in what all circuits have in common: several of them know it, and it is one fault. */
  readonly common?: true;
}

/** What the module makes of a pin. */
export interface ModuleReading {
  readonly pin: Pin;
  /** The other input of a differential pair; null for the module's ground. */
  readonly minus: Pin | null;
  /** `volts`: the level counts; `hertz`: the rate carries the quantity; `counts`: edges show that something turns. */
  readonly by: "volts" | "hertz" | "counts";
  /** Units it reports besides volts. */
  readonly units: readonly string[];
  /** Volts (or hertz) to the quantity and back; null outside the range. */
  readonly toWorld: (value: number) => number | null;
  readonly toValue: (world: number) => number;
  /** What it reports in its own unit where that is not the quantity itself: a share of the reference. */
  readonly shows?: { readonly toShown: (volts: number) => number; readonly toVolts: (shown: number) => number };
  /** What it reports in its own unit while the level is outside what it believes. */
  readonly substitute?: { readonly belowVolts: number; readonly aboveVolts: number; readonly value: number };
  /** Peak-to-peak volts at the module below which it sees no edges. */
  readonly leastSwing: number;
}

/** A voltage that must stay as it is for nobody to complain; what makes a fault matter. */
export interface Watched {
  readonly setup: Setup;
  readonly red: string;
  readonly black: string;
  readonly of: "mean" | "swing";
  /** A change of this many volts is noticed. */
  readonly volts: number;
  /** Turned round it is something else, as for a pair that makes its own voltage; a winding or a heater does not mind. */
  readonly signed?: true;
}

export interface BuiltFamily {
  readonly world: World;
  /** How module stage and sensor stand or move in a situation. */
  readonly drive: (situation: Situation) => Drive;
  readonly tolerances: readonly Tolerance[];
  readonly faults: readonly FamilyFault[];
  /** Nominal reference, feed or amplitude, volts: what full scale means. */
  readonly fullScaleVolts: number;
  /** How much steeper or flatter the sensor's line may be where the sheet has none, as a share; none where it states the line. */
  readonly stretch?: number;
  /** How far along what is sensed the line may lie where the sheet has none, in the sensed quantity's unit; none where it states the line. */
  readonly shift?: number;
  /** Full scale of the meter's range its signal needs, volts, where a usual one is too coarse for it. */
  readonly rangeVolts?: number;
  /** What the module reads, the main signal first; empty when it reads nothing. */
  readonly reads: readonly ModuleReading[];
  readonly watched: readonly Watched[];
  /** Pin pairs whose resistance at the part means something. */
  readonly partOhms: readonly (readonly [Pin, Pin])[];
}

/** What a circuit is for: generic codes name it, and what is shared or owned by the car follows from it. */
export const FAMILY_KINDS = ["temperature", "pressure", "air-flow", "track", "wheel", "knock", "mixture", "valve", "contact", "reference", "battery"] as const;
export type FamilyKind = (typeof FAMILY_KINDS)[number];

/** What of a family matters outside it. */
export interface FamilyTraits {
  readonly kind: FamilyKind;
  /** Its part is cleaned and tested again before it is replaced, where the shop says so. */
  readonly cleanable?: true;
  /** Its signal alternates: it is read on an AC range. */
  readonly alternating?: true;
  /** Its signal switches by itself: it is judged by the lowest and highest of some twenty seconds. */
  readonly recorded?: true;
}

/** Parameters a silent sheet may mean, with how often they are met. */
export interface Alternative {
  readonly with: Readonly<Record<string, unknown>>;
  readonly weight: number;
}

/** A circuit family: parameters, pins, and how module stage and sensor are put together. */
export interface Family {
  readonly id: string;
  readonly title: string;
  readonly summary: string;
  /** Every pin a circuit of the family can have. */
  readonly pins: readonly Pin[];
  /** What the part is called on the bench. */
  readonly part: string;
  readonly traits: FamilyTraits;
  readonly parameters: z.ZodType;
  /** The parameter that states the voltage of its reference, where it can share one. */
  readonly referenceParameter?: "vref" | "feedV";
  /**
   * Kinds of sound circuits that a silent sheet may mean and that lie too far apart for one spread: a feed of 5 or of 12 V, a pair with a
   * bias or without. The usual one first; weights sum to one.
   * @param silent whether the sheet leaves a parameter out
   */
  readonly alternatives?: (silent: (parameter: string) => boolean, given: Readonly<Record<string, unknown>>) => readonly Alternative[];
  /** The pins that parameters give it. */
  readonly wiring: (parameters: unknown) => readonly PinSpec[];
  /** Builds module stage and sensor; parameters have been checked by the schema. */
  readonly build: (builder: CircuitBuilder, parameters: unknown) => BuiltFamily;
}

/** Ties a family's schema, wiring and build function together so that they see the same parameter type. */
export function defineFamily<S extends z.ZodType>(
  family: Omit<Family, "parameters" | "build" | "wiring"> & {
    parameters: S;
    wiring: readonly PinSpec[] | ((parameters: z.output<S>) => readonly PinSpec[]);
    build: (builder: CircuitBuilder, parameters: z.output<S>) => BuiltFamily;
  },
): Family {
  const { wiring } = family;
  return {
    ...family,
    wiring: typeof wiring === "function" ? (parameters) => wiring(parameters as z.output<S>) : () => wiring,
    build: (builder, parameters) => family.build(builder, parameters as z.output<S>),
  };
}
