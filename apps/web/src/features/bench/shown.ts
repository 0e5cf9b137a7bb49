import type { Analysis, CircuitView, JobReading } from "@fox-lamp/core";
import { circuitOfUnit, type NextTest, parsePoint, type Setup } from "@fox-lamp/language";
import type { Desk } from "./desk";

/** What a reading must share with a test for its volts to be written on the same drawing: key and plugs, nothing added. */
function setupKey({ key = "on", open = [], add = [] }: Setup): string {
  return JSON.stringify([key, [...open].sort(), add]);
}

/**
 * The circuit a test is of, and the one that is drawn: a suspect chosen in another circuit brings that circuit's drawing, the test's leads stay
 * with its own.
 */
export function circuitsShown(
  analysis: Pick<Analysis, "circuits" | "diagnosis"> | null,
  test: NextTest | null,
  { selected, focus, own }: Pick<Desk, "selected" | "focus" | "own">,
) {
  const circuits = analysis?.circuits ?? [];
  const tested = test?.circuit ?? circuitOfUnit(analysis?.diagnosis.verdict.unit ?? "");
  const ofTest: CircuitView | undefined = circuits.find(({ id }) => id === tested) ?? circuits[0];
  const wanted = (selected === null ? null : circuitOfUnit(selected)) ?? own?.test.circuit ?? focus;
  return { ofTest, drawn: circuits.find(({ id }) => id === wanted) ?? ofTest };
}

/** Volts read so far that belong on a circuit's drawing in a setup, by `pin@place`. */
export function voltsMeasured(readings: readonly JobReading[], setup: Setup, circuit: string | undefined): ReadonlyMap<string, number> {
  const volts = new Map<string, number>();
  const shownIn = setupKey(setup);
  for (const { reading } of readings) {
    if (reading.meter !== "volts-dc" || reading.black !== "bat-" || typeof reading.value !== "number" || setupKey(reading.setup ?? {}) !== shownIn) continue;
    const point = parsePoint(reading.red);
    if (point?.kind === "pin" && (reading.circuit ?? circuit) === circuit) volts.set(`${point.pin}@${point.place}`, reading.value);
  }
  return volts;
}
