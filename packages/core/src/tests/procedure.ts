import type { Instrument, Measurement, Meter, Setup } from "@fox-lamp/language";

/** A way of touching the circuit, ready to be done. */
export interface Procedure {
  /** Stable within a circuit: same leads, meter and setup, same id. */
  readonly id: string;
  readonly circuit: string;
  readonly technique: "T1" | "T2" | "T4" | "T5" | "T6" | "T7" | "T8" | "T9" | "T14" | "look";
  readonly title: string;
  readonly meter: Meter;
  readonly red: string;
  readonly black: string | null;
  readonly setup: Setup;
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
export function procedureId(parts: Pick<Procedure, "meter" | "red" | "black" | "setup">): string {
  const { key = "on", open = [], add = [], stimulus, truth } = parts.setup;
  const pieces = [parts.meter, parts.red, parts.black ?? "", key, [...open].sort().join("+")];
  for (const added of add) pieces.push(`${added.kind}:${added.from}>${added.to}:${added.ohms ?? ""}`);
  if (stimulus && stimulus.kind !== "none") pieces.push(`${stimulus.kind}:${stimulus.at ?? ""}`);
  for (const [name, value] of Object.entries(truth ?? {})) pieces.push(`${name}=${String(value)}`);
  return pieces.join("|");
}

/** A test, offered or generated, as a measurement of the language. */
export function measurementOf(test: {
  readonly circuit: string;
  readonly meter: Meter;
  readonly red: string;
  readonly black: string | null;
  readonly setup: Setup;
}): Measurement {
  const { circuit, meter, red, black, setup } = test;
  return { circuit, meter, red, ...(black === null ? {} : { black }), setup };
}
