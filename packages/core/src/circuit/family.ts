import type { Pin, Setup, Truth } from "@fox-lamp/language";
import type { z } from "zod";
import type { EditField } from "../network";
import type { CircuitBuilder } from "./builder";

/** The physical quantity a sensor follows, with what is normal for it while a job is done. */
export interface World {
  readonly quantity: "temperature" | "position" | "pressure";
  readonly unit: "degC" | "%" | "kPa";
  /** Range the sensor can follow. */
  readonly low: number;
  readonly high: number;
  /** The value assumed where nobody says otherwise. */
  readonly nominal: number;
  /** Values expected with nothing wrong outside the circuit, evenly spread, with weights. */
  readonly normal: readonly WorldValue[];
  /** Values that mean trouble outside the circuit (an overheated engine, an empty system). */
  readonly abnormal: readonly WorldValue[];
  /** How well a technician knows the value (one standard deviation). */
  readonly accuracy: number;
  /** Two values a technician can set without tools, for tests that need a stimulus; empty when there are none. */
  readonly settable: readonly { readonly value: number; readonly how: string; readonly stimulus: Setup["stimulus"]; readonly minutes: number }[];
}

export interface WorldValue {
  readonly value: number;
  readonly weight: number;
  /** Half-width of the stretch this value stands for, as a standard deviation. */
  readonly spread: number;
}

/** One number of one element, by element name within the circuit. */
export interface Assignment {
  readonly element: string;
  readonly field: EditField;
  readonly value: number;
}

/** A tolerance shared by all hypotheses: one standard normal variable moving some numbers. */
export interface Tolerance {
  readonly id: string;
  /** `relative` multiplies by exp(sigma z); `absolute` adds sigma z. */
  readonly targets: readonly { readonly element: string; readonly field: EditField; readonly kind: "relative" | "absolute"; readonly sigma: number }[];
}

/** The scale of a fault: ohms on a logarithmic grid, a share from 0 to 1, or none. */
export type SeverityScale =
  | { readonly key: "ohms"; readonly low: number; readonly high: number }
  | { readonly key: "severity"; readonly low: number; readonly high: number }
  | null;

/** A fault that only this family has (its sensor and module stage); wires and contacts are common to all. */
export interface FamilyFault {
  readonly unit: string;
  readonly kind: string;
  readonly title: string;
  readonly severity: SeverityScale;
  /** Both directions are possible (a sensor that reads high or low). */
  readonly twoWay?: boolean;
  /** Assignments for a severity, a world value and a direction (+1 or -1). */
  readonly assign: (severity: number, world: number, direction: 1 | -1) => readonly Assignment[];
  /** What the module reports whatever the pin does, volts. */
  readonly scanVolts?: (severity: number) => number;
  /** Shows only under this stimulus. */
  readonly during?: string;
}

export interface BuiltFamily {
  readonly world: World;
  /** Sensor values for a world value. */
  readonly sensor: (world: number) => readonly Assignment[];
  readonly tolerances: readonly Tolerance[];
  readonly faults: readonly FamilyFault[];
  /** Nominal reference or feed, volts: what full scale means. */
  readonly fullScaleVolts: number;
  /** Module volts to the quantity and back, for scan values in engineering units; null outside the range. */
  readonly toWorld: (volts: number) => number | null;
  readonly toVolts: (world: number) => number;
  /** Pin pairs whose resistance at the part means something. */
  readonly partOhms: readonly (readonly [Pin, Pin])[];
}

/** A circuit family: parameters, pins, and how module stage and sensor are put together. */
export interface Family {
  readonly id: string;
  readonly title: string;
  readonly summary: string;
  readonly pins: readonly Pin[];
  /** What the part is called on the bench. */
  readonly part: string;
  readonly parameters: z.ZodType;
  /** Builds module stage and sensor; parameters have been checked by the schema. */
  readonly build: (builder: CircuitBuilder, parameters: unknown) => BuiltFamily;
}

/** Ties a family's schema and build function together so that both see the same parameter type. */
export function defineFamily<S extends z.ZodType>(
  family: Omit<Family, "parameters" | "build"> & { parameters: S; build: (builder: CircuitBuilder, parameters: z.output<S>) => BuiltFamily },
): Family {
  return { ...family, build: (builder, parameters) => family.build(builder, parameters as z.output<S>) };
}

/** The value of a quantity that a technician states, or null. */
export function statedWorld(world: World, truth: Truth | undefined): number | null {
  return truth?.[world.quantity] ?? null;
}
