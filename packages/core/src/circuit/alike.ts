import { BadInput, type Circuit, type Pin } from "@fox-lamp/language";
import type { Element } from "../network";
import { elementName, type PinPath } from "./builder";

/** Two circuits whose sensor connectors fit one another, with the pins that would meet. */
export interface AlikePair {
  readonly first: string;
  readonly second: string;
  readonly pins: readonly (readonly [Pin, Pin])[];
}

interface Candidate {
  readonly id: string;
  readonly circuit: Circuit;
  readonly paths: readonly PinPath[];
  /** Whether it never moves by itself. */
  readonly still: boolean;
}

/** The pins at a circuit's sensor connector. */
function plugged(candidate: Candidate): Pin[] {
  return candidate.paths.filter(({ places }) => places.has("sensor") && places.has("part")).map(({ pin }) => pin);
}

/**
 * The pairs a file's circuits name as alike, each once.
 *
 * @throws BadInput for a circuit that does not exist, that has another number of pins, or whose signal moves by itself
 */
export function alikePairs(candidates: readonly Candidate[], where: string): AlikePair[] {
  const pairs: AlikePair[] = [];
  for (const [index, own] of candidates.entries()) {
    for (const [at, id] of (own.circuit.alike ?? []).entries()) {
      const field = `${where}[${index}].alike[${at}]`;
      const refuse = (code: string, message: string): never => {
        throw new BadInput({ code, where: field, message });
      };
      const other = candidates.find((candidate) => candidate.id === id && candidate !== own);
      if (other === undefined)
        return refuse("alike:circuit", `no other circuit is called "${id}"; expected one of ${candidates.map((one) => one.id).join(", ")}`);
      const [pins, others] = [plugged(own), plugged(other)];
      if (pins.length !== others.length || pins.length === 0)
        return refuse("alike:pins", `the connector of ${own.id} has ${pins.length} pins, that of ${id} ${others.length}; expected the same number`);
      if (!own.still || !other.still)
        return refuse("alike:moving", `the signal of ${own.still ? id : own.id} moves by itself; expected circuits that stand still`);
      if (pairs.some(({ first, second }) => first === id && second === own.id)) continue;
      pairs.push({ first: own.id, second: id, pins: pins.map((pin, position) => [pin, others[position] as Pin] as const) });
    }
  }
  return pairs;
}

/** Name of the absent element that joins a harness cavity to the pin of another circuit's sensor. */
export function crossElement(from: string, pin: Pin, to: string): string {
  return elementName(from, `cross:${to}:${pin}`);
}

/** Absent elements from each cavity of one harness to the other's sensor, both ways. */
export function layCrossings(pairs: readonly AlikePair[], pathOf: (circuit: string, pin: Pin) => PinPath): Element[] {
  return pairs.flatMap(({ first, second, pins }) =>
    pins.flatMap(([own, other]): Element[] => {
      const absent = (from: string, pin: Pin, to: string, toPin: Pin): Element => ({
        kind: "resistor",
        id: crossElement(from, pin, to),
        a: pathOf(from, pin).places.get("sensor") ?? "",
        b: pathOf(to, toPin).part,
        ohms: Number.POSITIVE_INFINITY,
      });
      return [absent(first, own, second, other), absent(second, other, first, own)];
    }),
  );
}
