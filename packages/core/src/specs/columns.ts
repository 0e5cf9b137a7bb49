import { CURVE_KINDS, KEY_STATES, LOADS, METERS, type ShelfKind, SPEC_SOURCES } from "@fox-lamp/language";
import { FAMILIES } from "../circuit";
import { SPEC_UNITS } from "./units";

/** One column of a table of specifications: what it is called, what stands in it, an example. */
export interface Column {
  readonly name: string;
  readonly what: string;
  readonly example: string;
  readonly needed?: boolean;
}

const list = (words: readonly string[]): string => words.join(", ");

const OF: readonly Column[] = [
  { name: "make", what: "which vehicles; what is left empty is not narrowed", example: "Veldane" },
  { name: "model", what: "which vehicles", example: "Brisk 4" },
  { name: "engine", what: "which vehicles", example: "1.4 petrol" },
  { name: "years", what: "first and last model year, or one", example: "2011-2016" },
  { name: "family", what: `what kind of circuit: ${list(FAMILIES.map(({ id }) => id))}`, example: "thermistor-2w", needed: true },
];
const FROM: readonly Column[] = [
  { name: "source", what: "document, sheet, or how it was found", example: "Workshop book", needed: true },
  { name: "edition", what: "of the document", example: "3" },
  { name: "source kind", what: `${list(SPEC_SOURCES)}; document unless given`, example: "document" },
  { name: "date", what: "year-month-day", example: "2026-03-01" },
  { name: "confidence", what: "0 to 1", example: "0.8" },
];

/** Where leads go, in which state. */
const AT: readonly Column[] = [
  { name: "circuit", what: "only for this circuit id", example: "ect" },
  { name: "meter", what: list(METERS), example: "volts-dc", needed: true },
  { name: "red", what: "pin@place of the red lead", example: "sig@sensor", needed: true },
  { name: "black", what: "of the black lead; any ground unless given", example: "bat-" },
  { name: "key", what: list(KEY_STATES), example: "on" },
  { name: "rpm", what: "engine speed it is for", example: "2500" },
  { name: "load", what: `${list(LOADS)}: full is a snapped throttle, part a road; any unless given`, example: "none" },
  { name: "altitude", what: "metres above the sea it is for", example: "0-600" },
  { name: "open", what: "connectors unplugged", example: "sensor" },
  { name: "degC", what: "temperature it is for", example: "20" },
  { name: "kPa", what: "pressure it is for", example: "100" },
  { name: "percent", what: "position it is for", example: "0" },
];

/** Every column of the tables of limits, curves, look-alikes and known readings; the order they are written in. */
export const COLUMNS: Readonly<Record<ShelfKind, readonly Column[]>> = {
  limit: [
    ...OF,
    ...AT,
    { name: "low", what: "lowest value that passes", example: "4.8" },
    { name: "high", what: "highest value that passes", example: "5.2" },
    { name: "nominal", what: "where no limits are printed", example: "5" },
    { name: "unit", what: list(SPEC_UNITS), example: "V", needed: true },
    ...FROM,
  ],
  curve: [
    { name: "name", what: "rows of the same name are one curve", example: "Coolant sensor", needed: true },
    ...OF,
    { name: "kind", what: list(CURVE_KINDS), example: "temperature-ohms", needed: true },
    { name: "x", what: "what is sensed: degC, kPa, m, g/s or %", example: "20", needed: true },
    { name: "y", what: "what is shown: ohm, V or Hz; 2.5k is 2500", example: "2500", needed: true },
    { name: "tolerance", what: "of what is shown, %", example: "5" },
    ...FROM,
  ],
  variant: [
    { name: "part", what: "number or name", example: "VB-2210", needed: true },
    ...OF,
    { name: "ohms low", what: "between its own terminals", example: "2300" },
    { name: "ohms high", what: "between its own terminals", example: "2700" },
    { name: "degC", what: "temperature at which it has these ohms", example: "20" },
    { name: "line", what: "what it shows over what it senses, point by point", example: "20=0.5; 110=4.5" },
    { name: "teeth", what: "of its wheel", example: "60" },
    { name: "connector", what: "shape or key", example: "two-way, wide key" },
    { name: "seal", what: "ring, washer, sealant", example: "copper washer" },
    { name: "torque", what: "as printed", example: "18 Nm" },
    ...FROM,
  ],
  known: [
    ...OF,
    ...AT,
    { name: "value", what: "what a sound car read", example: "4.98", needed: true },
    { name: "unit", what: list(SPEC_UNITS), example: "V", needed: true },
    ...FROM,
  ],
};
