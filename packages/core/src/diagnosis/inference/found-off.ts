import { parseUnit, placeIn, type Reading } from "@fox-lamp/language";

/** The connector a look found off, or not home; null for any other reading. */
export function foundOff({ meter, red, value }: Reading): string | null {
  return meter === "look" && value === "unplugged" ? red : null;
}

/** A reading in its place among the others. */
interface Placed {
  readonly reading: Reading;
}

/** A plug that was found off, and pushed home since. */
export interface OffPlug {
  /** The circuit it was looked at for, and the connector as its reading names it. */
  readonly circuit: string;
  readonly connector: string;
  /** Place of the look among all readings: what was read before it was read with the plug off. */
  readonly at: number;
  /** Whether the circuit was read since with the plug in. */
  readonly readSince: boolean;
}

/** The plugs looks found off, in the order of the looks. @param onlyCircuit the circuit of readings that name none */
export function offPlugs(readings: readonly Placed[], onlyCircuit: string): OffPlug[] {
  return readings.flatMap(({ reading }, index) => {
    const connector = foundOff(reading);
    if (connector === null) return [];
    const circuit = reading.circuit ?? onlyCircuit;
    const place = placeIn(circuit, connector);
    const readSince = readings.slice(index + 1).some(({ reading: later }) => {
      const owner = later.circuit ?? onlyCircuit;
      return owner === circuit && later.meter !== "look" && !(later.setup?.open ?? []).some((open) => placeIn(owner, open) === place);
    });
    return [{ circuit, connector, at: index, readSince }];
  });
}

/** Whether a unit is a contact in a plug. */
export function isInPlug(unit: string, { circuit, connector }: OffPlug): boolean {
  const parsed = parseUnit(unit);
  return parsed?.kind === "contact" && placeIn(parsed.circuit, parsed.place) === placeIn(circuit, connector);
}
