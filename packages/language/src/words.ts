import { connectorAt, type FixedPoint, type Pin, parsePoint } from "./points";
import { parseUnit } from "./repair-unit";

/** Pins as people say them. */
const PIN_WORDS: Readonly<Record<Pin, string>> = {
  ref: "reference",
  feed: "feed",
  sig: "signal",
  gnd: "ground",
  sig1: "signal 1",
  sig2: "signal 2",
  ref1: "reference 1",
  ref2: "reference 2",
  gnd1: "ground 1",
  gnd2: "ground 2",
  "sig+": "signal +",
  "sig-": "signal −",
  shield: "shield",
  pgnd: "power ground",
  ret: "signal return",
  "htr-feed": "heater feed",
  "htr-ctl": "heater control",
  ctl: "control",
};

const FIXED_WORDS: Readonly<Record<FixedPoint, string>> = {
  "bat+": "battery positive",
  "bat-": "battery negative",
  engine: "engine block",
  chassis: "chassis",
};

const STAGE_WORDS: Readonly<Record<string, string>> = {
  ref: "reference",
  gnd: "ground",
  pull: "pull-up",
  input: "input",
  driver: "driver",
  bias: "bias",
};

function capital(text: string): string {
  return `${text.charAt(0).toUpperCase()}${text.slice(1)}`;
}

/** A title as it stands inside a sentence; what is capitals throughout keeps them: "AC volts", "C1". */
export function inSentence(title: string): string {
  return /^\p{Lu}(?![\p{Lu}\d])/u.test(title) ? `${title.charAt(0).toLowerCase()}${title.slice(1)}` : title;
}

/** A pin as people say it. */
export function pinWord(pin: string, asTitle = false): string {
  const word = (PIN_WORDS as Readonly<Record<string, string>>)[pin] ?? pin;
  return asTitle ? capital(word) : word;
}

/** A place as people say it: "at the sensor". */
export function placeWord(place: string): string {
  if (place === "sensor" || place === "module") return `at the ${place}`;
  if (place.startsWith("S") && place !== "S") return `at splice ${place}`;
  if (place === "loom") return "along the loom";
  if (place.endsWith(".out")) return `at ${connectorAt(place)}, the sensor's half`;
  return place === "part" ? "on the part" : `at ${place}`;
}

const SEEN_WORDS: Readonly<Record<string, string>> = {
  sensor: "sensor connector",
  module: "module connector",
  loom: "loom",
  target: "tone wheel",
  part: "part itself",
  twin: "twin",
  "check-lamp": "check lamp",
  "fuel-pump": "fuel pump",
};

/** What is looked at, listened to or noticed, as people say it: "sensor connector", "connector C1", "fuel pump". */
export function seenWord(place: string): string {
  const name = place.slice(place.indexOf(":") + 1);
  return SEEN_WORDS[name] ?? (/^C\d/u.test(name) ? `connector ${name}` : name);
}

/** A point as people say it: "signal at the sensor", "battery negative". */
export function pointWord(text: string): string {
  const point = parsePoint(text);
  if (point === null) return text;
  return point.kind === "fixed" ? FIXED_WORDS[point.point] : `${pinWord(point.pin)} ${placeWord(point.place)}`;
}

/** A point as people say it, with its circuit where that is another than `own`: "ground at the sensor of coolant temperature". */
export function pointWordAmong(text: string, own: string | undefined, circuits: readonly { readonly id: string; readonly title: string }[]): string {
  const point = parsePoint(text);
  const other = point?.kind === "pin" && point.circuit !== own ? circuits.find(({ id }) => id === point.circuit) : undefined;
  return other === undefined ? pointWord(text) : `${pointWord(text)} of ${inSentence(other.title)}`;
}

/** A repair unit as people say it: `ect/contact:sig@sensor` is "Signal contact at the sensor". @param part the circuit's word for its part */
export function unitTitle(unit: string, part = "sensor"): string {
  const parsed = parseUnit(unit);
  if (parsed === null) return unit === "" ? "Nothing wrong here" : unit.slice(unit.indexOf("/") + 1);
  switch (parsed.kind) {
    case "wire":
      return `${pinWord(parsed.pin, true)} wire`;
    case "contact":
      return `${pinWord(parsed.pin, true)} contact ${placeWord(parsed.place)}`;
    case "connector":
      return `Connector ${placeWord(parsed.place)}`;
    case "module":
      return `Module ${STAGE_WORDS[parsed.stage] ?? parsed.stage}`;
    case "contacts":
      return "Module, or its pin";
    case "ground":
      return `${capital(parsed.ground)} ground`;
    case "sensor":
      return part;
    case "heater":
      return "Heater";
    case "coil":
      return "Winding";
    case "battery":
      return "Battery";
    case "outside":
      return "Outside the circuit";
  }
}
