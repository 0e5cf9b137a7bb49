import { BadInput, type Measurement } from "@fox-lamp/language";
import type { Model } from "../circuit";
import { TEST_LAMP } from "../circuit";
import type { PlacedFault } from "../faults";
import { type Element, OFF, OPEN_OHMS, type Solution, spiceDeck, spiceNode } from "../network";
import { AMMETER_OHMS, METER_OHMS } from "./meters";
import { type ElectricalMeter, probeOf } from "./probe";
import { solveSetup } from "./simulate";

/** Test current of the ohmmeter in a deck, amps. */
const TEST_AMPS = 1e-6;
/** Meters with a working point. */
const DECKED: readonly ElectricalMeter[] = ["volts-dc", "ohms", "continuity", "amps-dc", "lamp", "scan"];

/** An element with the numbers and on the piece it has in the faulty setup; a lamp keeps its law. */
function settledElement(element: Element, { values, regimes }: Solution, index: number): Element {
  const ohms = values.ohms[index] as number;
  const volts = values.volts[index] as number;
  const off = regimes[index] === OFF;
  switch (element.kind) {
    case "resistor":
    case "fuse":
      return { kind: "resistor", id: element.id, a: element.a, b: element.b, ohms: off ? OPEN_OHMS : ohms };
    case "source":
    case "regulator":
      return { ...element, ohms, volts };
    case "amplifier":
      return { ...element, ohms, volts: off ? 0 : volts, gain: off ? 0 : (values.gain[index] as number) };
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
  const { solution } = moments[0] as (typeof moments)[number];
  const elements = prepared.net.elements.map((element, index) => settledElement(element, solution, index));
  if (probe.clamp !== null) throw new BadInput({ code: "netlist:meter", where: `${where}.black`, message: "a clamp has no leads; expected a black lead" });
  const [red, black] = [spiceNode(probe.red), spiceNode(probe.black)];
  const comments = [`* red=${red} black=${black}`];
  if (moments.length > 1) comments.push(`* moment 1 of ${moments.length}: the circuit moves between states, this is the first`);
  switch (probe.meter) {
    case "volts-dc":
      elements.push({ kind: "resistor", id: "meter", a: probe.red, b: probe.black, ohms: METER_OHMS });
      break;
    case "lamp":
      elements.push({ kind: "lamp", id: "test-lamp", a: probe.red, b: probe.black, ...TEST_LAMP });
      comments.push("* lamp");
      break;
    case "ohms":
    case "continuity":
      comments.push(`* ohms itest=${TEST_AMPS}`, `Itest ${black} ${red} DC ${TEST_AMPS}`);
      break;
    case "amps-dc":
      elements.push({ kind: "resistor", id: "meter", a: probe.red, b: probe.black, ohms: AMMETER_OHMS });
      break;
    case "volts-ac":
    case "capture":
    case "hertz":
    case "duty":
      break;
    case "scan":
      comments.push("* scan: what the module's converter sees");
      break;
  }
  const start = new Map(prepared.net.nodes.map((node, row) => [node, solution.volts[row] as number]));
  return spiceDeck(elements, `${measurement.meter} on ${probe.circuit.id}`, comments, start);
}
