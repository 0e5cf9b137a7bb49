import { BadInput, type Measurement } from "@fox-lamp/language";
import type { Model } from "../circuit";
import type { PlacedFault } from "../faults";
import { type Element, OFF, OPEN_OHMS, type Solution, spiceDeck, spiceNode } from "../network";
import { probeOf } from "./probe";
import { DECKED, electricalRecord } from "./records";
import { solveSetup } from "./simulate";

/** An element with the numbers and on the piece it has in the faulty setup; a lamp keeps its law. */
function settledElement(element: Element, { values, regimes }: Solution, index: number): Element {
  const ohms = values.ohms[index];
  const volts = values.volts[index];
  const off = regimes[index] === OFF;
  switch (element.kind) {
    case "resistor":
    case "fuse":
      return { kind: "resistor", id: element.id, a: element.a, b: element.b, ohms: off ? OPEN_OHMS : ohms };
    case "source":
    case "regulator":
      return { ...element, ohms, volts };
    case "amplifier":
      return { ...element, ohms, volts: off ? 0 : volts, gain: off ? 0 : values.gain[index] };
    case "lamp":
      return element;
  }
}

/**
 * A measurement on a faulty circuit as a SPICE deck: the same elements, the meter's own resistance included.
 * A comment names the leads: `* red=NODE black=NODE`, followed by `* lamp` or `* ohms itest=AMPS` where it is one.
 *
 * @throws BadInput for bad leads, or a meter without a working point
 */
export function measurementDeck(model: Model, measurement: Measurement, faults: readonly PlacedFault[], where: string): string {
  const probe = probeOf(model, measurement, where);
  if (probe === null || probe.kind !== "electrical" || !DECKED.includes(probe.meter)) {
    throw new BadInput({
      code: "netlist:meter",
      where: `${where}.meter`,
      message: `"${measurement.meter}" has no circuit to solve; expected ${DECKED.join(", ")}`,
    });
  }
  const { prepared, moments } = solveSetup(model, probe, faults);
  const { solution } = moments[0];
  const elements = prepared.net.elements.map((element, index) => settledElement(element, solution, index));
  if (probe.clamp !== null) throw new BadInput({ code: "netlist:meter", where: `${where}.black`, message: "a clamp has no leads; expected a black lead" });
  const [red, black] = [spiceNode(probe.red), spiceNode(probe.black)];
  const comments = [`* red=${red} black=${black}`];
  if (moments.length > 1) comments.push(`* moment 1 of ${moments.length}: the circuit moves between states, this is the first`);
  const own = electricalRecord(probe.meter).deck?.(probe, red, black);
  elements.push(...(own?.elements ?? []));
  comments.push(...(own?.lines ?? []));
  const start = new Map(prepared.net.nodes.map((node, row) => [node, solution.volts[row]]));
  return spiceDeck(elements, `${measurement.meter} on ${probe.circuit.id}`, comments, start);
}
