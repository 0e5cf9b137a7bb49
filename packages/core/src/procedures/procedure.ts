import { type Instrument, knownWord, type Measurement, type Meter, type Setup } from "@fox-lamp/language";
import type { Technique } from "../instruments";

/** How a scope is set: a wrong set-up hides a good signal. */
export interface ScopeSetting {
  readonly coupling: "dc" | "ac";
  readonly voltsPerDivision: number;
  readonly secondsPerDivision: number;
  /** Level that starts the picture; null to let it run freely. */
  readonly triggerVolts: number | null;
}

/** A way of touching the circuit, ready to be done. */
export interface Procedure {
  /** Stable within a job: same circuit, leads, meter and setup, same id. */
  readonly id: string;
  readonly circuit: string;
  readonly technique: Technique;
  readonly title: string;
  readonly meter: Meter;
  readonly red: string;
  readonly black: string | null;
  readonly setup: Setup;
  /** Unit of a scan value; null for volts. */
  readonly unit: string | null;
  /** Watched for a while: minimum, maximum and average are entered. */
  readonly record: boolean;
  /** How a scope is set for the signal expected; null for other instruments. */
  readonly scope: ScopeSetting | null;
  /** Minutes of the test itself, without reaching the places. */
  readonly minutes: number;
  /** Places that must be reached, charged once. */
  readonly reach: readonly string[];
  /** Connectors that are unplugged for it. */
  readonly opens: readonly string[];
  readonly needs: readonly Instrument[];
  /** What it proves when the reading is as expected, and what it cannot. */
  readonly proves: string;
  readonly cautions: readonly string[];
}

/** Identity of a test by what is done, whatever its words. */
export function procedureId(parts: {
  readonly meter: Meter;
  readonly red: string;
  readonly black: string | null;
  readonly setup: Setup;
  readonly unit?: string | null | undefined;
  readonly record?: boolean | undefined;
  readonly coupling?: "dc" | "ac" | undefined;
}): string {
  const { key = "on", rpm, open = [], add = [], stimulus, truth } = parts.setup;
  const pieces = [parts.meter, parts.red, parts.black ?? "", rpm === undefined ? key : `${key}${rpm}`, [...open].sort().join("+")];
  for (const added of add) pieces.push(`${added.kind}:${added.from}>${added.to}:${added.ohms ?? ""}`);
  if (stimulus && stimulus.kind !== "none") pieces.push(`${stimulus.kind}:${stimulus.at ?? ""}`);
  for (const [name, value] of Object.entries(truth ?? {})) if (value !== undefined) pieces.push(`${name}=${knownWord<number | string>(value)}`);
  if (parts.unit != null && parts.unit !== "V") pieces.push(parts.unit);
  if (parts.record) pieces.push("min-max");
  if (parts.coupling === "ac") pieces.push("ac-coupled");
  return pieces.join("|");
}

/** A reading's or measurement's {@link procedureId}. */
export function measurementId(measurement: Measurement): string {
  const { meter, red, black = null, setup = {}, unit, record, coupling } = measurement;
  return procedureId({ meter, red, black, setup, unit, record: record !== undefined, coupling });
}

/** A test, offered or generated, as a measurement of the language. */
export function measurementOf(test: {
  readonly circuit: string;
  readonly meter: Meter;
  readonly red: string;
  readonly black: string | null;
  readonly setup: Setup;
  readonly unit?: string | null | undefined;
  readonly record?: boolean | "min-max" | undefined;
  readonly scope?: Pick<ScopeSetting, "coupling"> | null | undefined;
}): Measurement {
  const { circuit, meter, red, black, setup, unit, record, scope } = test;
  return {
    circuit,
    meter,
    red,
    ...(black === null ? {} : { black }),
    setup,
    ...(unit == null ? {} : { unit }),
    ...(record ? { record: "min-max" as const } : {}),
    ...(scope?.coupling === "ac" ? { coupling: "ac" as const } : {}),
  };
}
