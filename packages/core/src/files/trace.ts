import { BadInput, type TraceFile } from "@fox-lamp/language";
import type { CircuitModel, Model } from "../circuit";
import type { Capture } from "../signals";
import { type TraceChannel, traceOf } from "../vehicle";
import { placed } from "./measure";

/** A channel named so is a clamp around the circuit's own wire. */
export const CURRENT = "current";

/** The wire a clamp goes around: the one the module drives, else the first. */
export function clampedPin(pins: CircuitModel["pins"]): string | undefined {
  return (pins.find(({ role }) => role === "control") ?? pins[0])?.pin;
}

/**
 * Leads of a channel that is named by a pin alone: back-probed at the sensor, against the battery's minus, or against the other wire of a pair;
 * a clamp for one that is named `current`.
 *
 * @throws BadInput for a name that is no pin
 */
export function leadsOf(model: Model, channel: string, where: string): TraceChannel {
  const [point, place] = channel.split("@") as [string, string?];
  const [prefix, own] = point.includes(":") ? (point.split(":") as [string, string]) : [undefined, point];
  const circuit =
    prefix === undefined ? model.circuits.find(({ pins }) => pins.some(({ pin }) => pin === own)) : model.circuits.find(({ id }) => id === prefix);
  const id = circuit?.id ?? prefix ?? "";
  if (/^(bat[+-]|engine|chassis)$/u.test(point)) return { name: channel, red: point, black: "bat-" };
  const clamped = own === CURRENT ? (circuit ?? model.circuits[0]) : undefined;
  const wire = clampedPin(clamped?.pins ?? []);
  if (clamped !== undefined && wire !== undefined) return { name: channel, red: `${clamped.id}:${wire}@${place ?? "sensor"}`, black: null };
  if (circuit === undefined || !circuit.pins.some(({ pin }) => pin === own)) {
    const known = model.circuits.flatMap(({ id: name, pins }) => pins.map(({ pin }) => (model.circuits.length > 1 ? `${name}:${pin}` : pin)));
    throw new BadInput({ code: "trace:channel", where, message: `"${channel}" is no pin of these circuits; expected one of ${known.join(", ")}` });
  }
  const places = circuit.paths.find(({ pin }) => pin === own)?.places;
  const at = place ?? (places?.has("sensor") ? "sensor" : "module");
  const pair = own === "sig+" && circuit.pins.some(({ pin }) => pin === "sig-");
  return { name: channel, red: `${id}:${own}@${at}`, black: pair ? `${id}:sig-@${at}` : "bat-" };
}

function circuitOfFile(model: Model, file: TraceFile): CircuitModel {
  const found = file.circuit === undefined ? model.circuits[0] : model.circuits.find(({ id }) => id === file.circuit);
  if (found !== undefined) return found;
  throw new BadInput({
    code: "trace:circuit",
    where: "circuit",
    message: `"${file.circuit}" is none of the file's circuits; expected one of ${model.circuits.map(({ id }) => id).join(", ")}`,
  });
}

/** What a scope would store on a file's car. @throws BadInput for circuits, faults and leads that cannot be */
export function traceFile(file: TraceFile): Capture {
  const { model, faults } = placed(file);
  const circuit = circuitOfFile(model, file);
  const channels = file.channels.map((channel, index): TraceChannel => {
    const where = `channels[${index}]`;
    if (typeof channel === "string") return leadsOf(model, channel, where);
    if ("clamp" in channel) return { name: channel.name ?? channel.clamp, red: channel.clamp, black: null };
    return { name: channel.name ?? channel.red, red: channel.red, black: channel.black ?? "bat-" };
  });
  const { seconds, rate, seed, bits, range, during, brokenTeeth, seized, coupling } = file;
  const trace = traceOf(model, circuit, file.setup ?? {}, faults, { channels, seconds, rate, seed, bits, range, during, brokenTeeth, seized, coupling });
  return { start: 0, rate, channels: trace.channels };
}
