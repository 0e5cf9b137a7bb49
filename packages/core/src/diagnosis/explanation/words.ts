import type { Reading } from "@fox-lamp/language";
import { scaleOf } from "../../instruments";
import { pinWord } from "../../procedures";
import { formatQuantity, formatWindow } from "../../units";
import type { Predicted } from "../posterior/intervals";
import type { PredictionTable } from "../predictions/table";

/** The unit a table's numbers are shown in. */
export function shownUnit(table: PredictionTable): string {
  return scaleOf(table.probe).unit;
}

/** Words of instruments that are no word on a display. */
const WORDS: Readonly<Record<string, string>> = { none: "no signal", counts: "a signal" };

/** A predicted interval in the words of its instrument. */
export function describePredicted(predicted: Predicted, table: PredictionTable): string {
  if (predicted.word !== null) return WORDS[predicted.word] ?? `"${predicted.word}"`;
  if (predicted.low === null || predicted.high === null) return "any value";
  const { unit, fromScale } = scaleOf(table.probe);
  const ends = [fromScale(predicted.low), fromScale(predicted.high)].sort((a, b) => a - b);
  return formatWindow(ends[0] ?? null, ends[1] ?? null, unit);
}

/** A reading's value as it was read. */
export function describeValue(reading: Reading, unit: string): string {
  const { value } = reading;
  if (typeof value === "string") return `"${value}"`;
  if (typeof value === "number") return formatQuantity(value, unit);
  return `${formatQuantity(value.min, unit)} to ${formatQuantity(value.max, unit)}`;
}

const STAGE_WORDS: Readonly<Record<string, string>> = {
  ref: "reference",
  gnd: "low reference",
  pull: "pull-up",
  input: "input",
  driver: "driver",
  bias: "bias",
};

/** A repair unit as people say it: `ect/contact:sig@sensor` is "signal contact at the sensor". */
export function unitTitle(unit: string, part = "sensor"): string {
  const local = unit.split("/").slice(1).join("/");
  const [kind = "", rest = ""] = local.split(":");
  switch (kind) {
    case "wire":
      return `${pinWord(rest, true)} wire`;
    case "contact": {
      const [pin = "", place = ""] = rest.split("@");
      return `${pinWord(pin, true)} contact at ${place === "sensor" || place === "module" ? `the ${place}` : place}`;
    }
    case "connector":
      return "Connector at the sensor";
    case "sensor":
      return part;
    case "module":
      return `Module ${STAGE_WORDS[rest] ?? rest}`;
    case "battery":
      return "Battery";
    case "ground":
      return `${rest.charAt(0).toUpperCase()}${rest.slice(1)} ground`;
    case "heater":
      return "Heater";
    case "coil":
      return "Winding";
    case "outside":
      return "Outside the circuit";
    default:
      return local === "" ? "Nothing wrong here" : local;
  }
}
