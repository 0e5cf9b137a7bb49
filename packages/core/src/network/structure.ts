import { analysePattern, entryOf, type SparsePattern } from "../numeric";
import type { Element } from "./elements";

/** Which nodes the elements of a network lie between. */
interface Wiring {
  readonly nodes: readonly string[];
  readonly elements: readonly Element[];
  readonly a: Int32Array;
  readonly b: Int32Array;
  readonly p: Int32Array;
  readonly q: Int32Array;
}

/** Where an element's conductance and gain go among a factor's entries; -1 where there is none. */
interface Places {
  readonly ab: Int32Array;
  readonly ba: Int32Array;
  readonly ap: Int32Array;
  readonly aq: Int32Array;
  readonly bp: Int32Array;
  readonly bq: Int32Array;
}

/** A network's elimination order, with the places of its elements in it. */
export interface Structure {
  readonly pattern: SparsePattern;
  readonly places: Places;
}

/** The elimination order of a network. */
export function structureOf(net: Wiring): Structure {
  const { a, b, p, q } = net;
  const ends = [
    [a, b],
    [b, a],
    [a, p],
    [a, q],
    [b, p],
    [b, q],
  ] as const;
  const controlled = (element: number): boolean => net.elements[element]?.kind === "amplifier";
  const pairs = net.elements.flatMap((_, element) =>
    ends.flatMap(([from, to], index): [number, number][] => (index > 1 && !controlled(element) ? [] : [[from[element], to[element]]])),
  );
  const pattern = analysePattern(net.nodes.length, pairs);
  const placesOf = ([from, to]: readonly [Int32Array, Int32Array], index: number): Int32Array =>
    Int32Array.from(net.elements, (_, element) => (index > 1 && !controlled(element) ? -1 : entryOf(pattern, from[element], to[element])));
  const [ab, ba, ap, aq, bp, bq] = ends.map(placesOf) as [Int32Array, Int32Array, Int32Array, Int32Array, Int32Array, Int32Array];
  return { pattern, places: { ab, ba, ap, aq, bp, bq } };
}
