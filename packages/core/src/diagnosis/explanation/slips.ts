import { connectorAt, parsePoint, pinWord, printPoint, type Reading } from "@fox-lamp/language";
import { type CircuitModel, connectorsOf, type Model } from "../../circuit";
import type { PlacedFault } from "../../faults";
import { simulateReading } from "../../instruments";
import { formatQuantity } from "../../units";

/** A way a reading can go wrong, and the value that would fit if it did. */
export interface NamedSlip {
  readonly slip: "leads-swapped" | "unit" | "key-off" | "open-probe" | "neighbour" | "overload" | "connector" | "unexplained";
  readonly why: string;
  readonly suggested: number | null;
}

const UNITS: Readonly<Record<string, string>> = { ohms: "ohm", hertz: "Hz", duty: "%", count: "", "amps-dc": "A" };

/** How close two numbers must be to be taken for the same, relative to the larger. */
function close(a: number, b: number, unit: string): boolean {
  const least = unit === "V" ? 0.06 : 1;
  return Math.abs(a - b) <= Math.max(least, 0.12 * Math.max(Math.abs(a), Math.abs(b)));
}

/**
 * Finds the likeliest slip behind a reading that does not fit: what the best hypothesis predicts is compared with what it
 * would predict with swapped leads, another range, the key off, a neighbouring cavity, a probe that does not touch.
 *
 * @param expected value the best hypothesis predicts for the reading, in the reading's own unit; null for a word
 * @param faults the best hypothesis as faults in place
 */
export function nameSlip(
  model: Model,
  circuit: CircuitModel,
  reading: Reading,
  expected: number | null,
  faults: readonly PlacedFault[],
  world: number,
): NamedSlip {
  const value = typeof reading.value === "number" ? reading.value : null;
  const unit =
    UNITS[reading.meter] ?? (reading.meter === "scan" ? (reading.unit ?? "V") : reading.meter === "gauge" ? (reading.unit ?? circuit.built.world.unit) : "V");
  const asNumber = (variant: Partial<Reading>): number | null => {
    const { value: _value, ...measurement } = { ...reading, ...variant };
    const shown = simulateReading(model, { circuit: circuit.id, ...measurement }, faults, "reading", new Map([[circuit.id, world]]));
    return typeof shown === "number" ? shown : null;
  };
  if (value !== null && expected !== null) {
    if (value < -0.03 && close(-value, expected, unit)) {
      return { slip: "leads-swapped", why: `It looks like the leads were swapped: ${formatQuantity(-value, unit)} would fit.`, suggested: -value };
    }
    for (const factor of [1000, 0.001, 1e6, 1e-6]) {
      if (Math.abs(expected) > 1e-3 && Math.abs(value * factor - expected) <= 0.12 * Math.abs(expected)) {
        const suggested = Number((value * factor).toPrecision(6));
        return { slip: "unit", why: `It looks like a slip of the unit or range: ${formatQuantity(suggested, unit)} would fit.`, suggested };
      }
    }
    if (reading.meter === "volts-dc" || reading.meter === "scan") {
      const off = asNumber({ setup: { ...reading.setup, key: "off" } });
      if (off !== null && close(off, value, unit) && !close(off, expected, unit)) {
        return { slip: "key-off", why: "It would fit with the key off: was the key on?", suggested: null };
      }
    }
    const neighbour = neighbourOf(circuit, reading, value, unit, asNumber);
    if (neighbour !== null) return neighbour;
    if (reading.meter === "volts-dc" && Math.abs(value) < 0.05 && Math.abs(expected) > 0.2) {
      return { slip: "open-probe", why: `A probe that does not touch shows 0 V; ${formatQuantity(expected, unit)} was expected.`, suggested: null };
    }
    const plugged = (reading.setup?.open ?? []).length === 0;
    if (reading.meter !== "ohms" && connectorsOf(circuit).includes("sensor")) {
      const other = asNumber({ setup: { ...reading.setup, open: plugged ? ["sensor"] : [] } });
      if (other !== null && close(other, value, unit) && !close(other, expected, unit)) {
        return { slip: "connector", why: `It would fit with the connector ${plugged ? "unplugged" : "plugged in"}.`, suggested: null };
      }
    }
  }
  if (reading.value === "OL" && expected !== null) {
    return { slip: "overload", why: `OL also shows on too low a range; ${formatQuantity(expected, unit)} was expected.`, suggested: null };
  }
  return { slip: "unexplained", why: expected === null ? "" : `${formatQuantity(expected, unit)} was expected.`, suggested: null };
}

function neighbourOf(
  circuit: CircuitModel,
  reading: Reading,
  value: number,
  unit: string,
  asNumber: (variant: Partial<Reading>) => number | null,
): NamedSlip | null {
  if (reading.meter === "scan") return null;
  for (const lead of ["red", "black"] as const) {
    const text = reading[lead];
    const point = text === undefined ? null : parsePoint(text);
    if (point?.kind !== "pin") continue;
    for (const { pin } of circuit.pins) {
      const path = circuit.paths.find((candidate) => candidate.pin === pin);
      if (pin === point.pin || !path?.places.has(connectorAt(point.place))) continue;
      const moved = printPoint({ ...point, pin });
      if (moved === reading.red || moved === reading.black) continue;
      const shown = asNumber({ [lead]: moved });
      if (shown === null || !close(shown, value, unit) || Math.abs(value) < 0.02) continue;
      return { slip: "neighbour", why: `It would fit with the ${lead} lead in the ${pinWord(pin)} cavity.`, suggested: null };
    }
  }
  return null;
}
