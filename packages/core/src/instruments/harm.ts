import { type Added, type Measurement, type PinRole, parsePoint, pointWord, type Setup } from "@fox-lamp/language";
import { type CircuitModel, circuitOf, type Model, pathOf } from "../circuit";

/** What a point is to someone who wants to connect something to it. */
type Nature = "battery" | "ground" | PinRole | "other";

const ADDED_WORDS: Readonly<Record<Added["kind"], string>> = { jumper: "jumper", resistor: "resistor", lamp: "test lamp", "led-lamp": "LED tester" };
const DELICATE: readonly Nature[] = ["reference", "signal", "shield"];

function natureOf(model: Model, text: string, circuit: string | undefined): Nature {
  const point = parsePoint(text);
  if (point === null) return "other";
  if (point.kind === "fixed") return point.point === "bat+" ? "battery" : "ground";
  const owner: CircuitModel = circuitOf(model, point.circuit ?? circuit, "");
  const path = pathOf(owner, point.pin);
  if (path === undefined) return "other";
  return path.origin === "fuse" ? "battery" : path.role;
}

/** Warnings for a setup that would harm a module or a meter: what would happen, and where. */
export function harmOf(model: Model, measurement: Measurement): string[] {
  const setup: Setup = measurement.setup ?? {};
  const key = setup.key ?? "on";
  const { circuit } = measurement;
  const warnings: string[] = [];
  for (const added of setup.add ?? []) {
    if (key === "off" || added.kind === "led-lamp") continue;
    const ends = [natureOf(model, added.from, circuit), natureOf(model, added.to, circuit)] as const;
    const fed = ends.includes("battery");
    const delicate = ends.find((nature) => DELICATE.includes(nature));
    const place = `${pointWord(added.from)} to ${pointWord(added.to)}`;
    if (fed && delicate !== undefined)
      warnings.push(`Battery voltage on a ${delicate} pin of the module (${ADDED_WORDS[added.kind]} from ${place}) can destroy it`);
    else if (fed && (ends.includes("control") || ends.includes("heater-control")))
      warnings.push(`Battery on a driver of the module (${ADDED_WORDS[added.kind]} from ${place}) can destroy it`);
    else if (ends.includes("shield")) warnings.push(`A shield is never connected to anything (${ADDED_WORDS[added.kind]} from ${place})`);
  }
  if (measurement.meter === "lamp" && key !== "off" && measurement.black !== undefined) {
    const ends = [natureOf(model, measurement.red, circuit), natureOf(model, measurement.black, circuit)] as const;
    if (ends.includes("battery") && ends.some((nature) => DELICATE.includes(nature))) {
      warnings.push(`A test lamp from the battery to ${pointWord(measurement.red)} or ${pointWord(measurement.black)} can overload the module's pin`);
    }
  }
  if ((measurement.meter === "ohms" || measurement.meter === "continuity") && key !== "off") {
    warnings.push("Resistance is measured with the key off: on a live line the reading means nothing and meter or module can be harmed");
  }
  return warnings;
}
