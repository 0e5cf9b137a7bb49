import { type CircuitView, formatQuantity, formatWindow } from "@fox-lamp/core";
import {
  circuitOfUnit,
  connectorAt,
  type Expect,
  inSentence,
  isGroundRole,
  knownWord,
  type NextTest,
  parsePoint,
  pinWord,
  placeWord,
  pointWord,
  pointWordAmong,
  printShorthand,
  type Reading,
  type Setup,
  type ShopSettings,
  seenWord,
  unitTitle,
  type Value,
} from "@fox-lamp/language";
import { messages } from "../messages";
import { shownUnit, shownValue } from "../ui/display";

const capital = (text: string): string => `${text.charAt(0).toUpperCase()}${text.slice(1)}`;

/** A repair unit's title, with its circuit's word for the part and, where there are several circuits, its circuit. */
export function titleOf(unit: string, circuits: readonly Pick<CircuitView, "id" | "title" | "part">[]): string {
  // Two faults at once are named by both.
  if (unit.includes("&"))
    return unit
      .split("&")
      .map((member) => titleOf(member, circuits))
      .join(messages.bench.both);
  const circuit = circuits.find(({ id }) => id === circuitOfUnit(unit));
  const title = unitTitle(unit, circuit?.part ?? "Sensor");
  return circuits.length > 1 && circuit ? `${title}, ${circuit.title}` : title;
}

/** A test's title; where a job has several circuits, with the circuit it is of. */
export function testTitle(test: Pick<NextTest, "title" | "circuit">, circuits: readonly Pick<CircuitView, "id" | "title">[]): string {
  return ofCircuit(test.title, test.circuit, circuits);
}

/** What is worth reading along with a test, as it is named within a sentence. */
export function alongTitles(along: NonNullable<NextTest["along"]>, circuits: readonly Pick<CircuitView, "id" | "title">[]): string[] {
  return along.map(({ title, circuit }) => ofCircuit(inSentence(title), circuit, circuits));
}

/** Words about something of a circuit; where a job has several, the circuit first. */
export function ofCircuit(words: string, id: string | undefined, circuits: readonly Pick<CircuitView, "id" | "title">[]): string {
  const circuit = circuits.length > 1 ? circuits.find((candidate) => candidate.id === id) : undefined;
  return circuit === undefined || words.includes(circuit.title) ? words : `${circuit.title}: ${inSentence(words)}`;
}

type Named = Pick<CircuitView, "id" | "title">;

/** Where a lead goes: place, cavity and colour, and how it is reached. @param circuits the job's, for leads on others than the test's */
export function leadText(
  tested: CircuitView | undefined,
  point: string,
  setup: Setup,
  circuits: readonly CircuitView[] = [],
): { main: string; detail: string; how: string } {
  const parsed = parsePoint(point);
  if (parsed === null || parsed.kind === "fixed") return { main: capital(pointWord(point)), detail: "", how: "" };
  const other = parsed.circuit === null || parsed.circuit === tested?.id ? undefined : circuits.find(({ id }) => id === parsed.circuit);
  const circuit = other ?? tested;
  const pin = circuit?.pins.find((candidate) => candidate.pin === parsed.pin);
  const place =
    parsed.place === "part"
      ? (circuit?.part ?? "Part")
      : parsed.place === "sensor"
        ? "Sensor connector"
        : parsed.place === "module"
          ? "Module connector"
          : connectorAt(parsed.place);
  const connector = connectorAt(parsed.place);
  const unplugged = (setup.open ?? []).some((open) =>
    other === undefined || connector === "module" ? open === connector || open.endsWith(`:${connector}`) : open === `${other.id}:${connector}`,
  );
  const inline = connector.startsWith("C");
  const half = !inline ? "harness side" : connector === parsed.place ? "module's half" : "sensor's half";
  const how = parsed.place === "part" ? "its own terminal" : unplugged ? `${half}, unplugged` : inline ? `back-probed, ${half}` : "back-probed";
  const cavity = pin?.cavity ? `, cavity ${pin.cavity}` : "";
  const colour = pin?.colour ? `, ${pin.colour}` : "";
  const whose = other === undefined ? "" : ` of ${inSentence(other.title)}`;
  return { main: `${place}${whose}${cavity}`, detail: `${pinWord(parsed.pin)}${colour}`, how };
}

/** Two points in words; the place is said once when both are at it. */
function betweenText(from: string, to: string, circuits: readonly Named[]): string {
  const [a, b] = [parsePoint(from), parsePoint(to)];
  if (a?.kind === "pin" && b?.kind === "pin" && a.circuit !== b.circuit)
    return `from ${pointWordAmong(from, undefined, circuits)} to ${pointWordAmong(to, undefined, circuits)}`;
  if (a?.kind === "pin" && b?.kind === "pin" && a.place === b.place) return `from ${pinWord(a.pin)} to ${pinWord(b.pin)} ${placeWord(a.place)}`;
  return `from ${pointWord(from)} to ${pointWord(to)}`;
}

/** A connector as it stands in a setup: "sensor", "C1", "module"; of other circuits with the circuit's title. */
export function plugWord(open: string, circuits: readonly Named[] = []): string {
  const [first = "", second] = open.split(":");
  if (second === undefined) return first;
  const title = circuits.find(({ id }) => id === first)?.title;
  return circuits.length === 1 ? second : `${second} of ${title === undefined ? first : inSentence(title)}`;
}

/** Key, plugs and added parts in a few words. @param circuits the job's, for connectors of other circuits */
export function setupText(setup: Setup, circuits: readonly Named[] = []): string {
  const parts: string[] = [messages.bench.key[setup.key ?? "on"]];
  const open = setup.open ?? [];
  parts.push(open.length === 0 ? messages.bench.plugged : messages.bench.unplugged(open.map((each) => plugWord(each, circuits)).join(" and ")));
  for (const added of setup.add ?? []) {
    const what = added.kind === "resistor" ? formatQuantity(added.ohms ?? 0, "ohm", 2) : messages.bench.added[added.kind];
    parts.push(`${what} ${betweenText(added.from, added.to, circuits)}`);
  }
  if (setup.stimulus && setup.stimulus.kind !== "none")
    parts.push(`${messages.bench.stimulus[setup.stimulus.kind]}${setup.stimulus.at ? ` ${placeWord(setup.stimulus.at)}` : ""}`);
  const { truth } = setup;
  if (truth?.position !== undefined) parts.push(`position ${knownWord(truth.position)} %`);
  if (truth?.level !== undefined) parts.push(`level ${knownWord<number | string>(truth.level)}`);
  if (setup.steel !== undefined) parts.push(messages.bench.steel[setup.steel]);
  if (setup.key === "rev" && setup.rpm !== undefined) parts.push(`${setup.rpm} rpm`);
  return parts.join(", ");
}

const LEAST_DROP_VOLTS = 0.1;
const MOST_DROP_VOLTS = 0.6;

/** A window in words: numbers with their unit, or the word a healthy circuit shows. @param record the window is of lowest to highest */
export function windowText(expect: Expect | null | undefined, record = false): string {
  if (!expect) return "";
  if (expect.word !== undefined) return messages.bench.findings[expect.word] ?? expect.word;
  const { low, high, unit } = expect;
  // A drop is never wanted: what counts is how little it is. A meter's last digits may lie below zero.
  if (unit === "V" && low !== null && high !== null && low <= 0 && low >= -LEAST_DROP_VOLTS && high > 0 && high <= MOST_DROP_VOLTS)
    return record ? messages.bench.apart(messages.bench.under(formatQuantity(high, unit))) : messages.bench.under(formatQuantity(high, unit));
  const window = formatWindow(low === null ? null : shownValue(low, unit), high === null ? null : shownValue(high, unit), shownUnit(unit));
  // An ohmmeter on a track that is swept has a window of its ends, not of their distance.
  return record && unit !== "ohm" ? messages.bench.apart(window) : window;
}

/** A value with its unit, or a word as people say it. */
export function valueText(value: Value, unit: string): string {
  const shown = (number: number): string => formatQuantity(shownValue(number, unit), shownUnit(unit));
  if (typeof value === "number") return shown(value);
  if (typeof value === "string") return messages.bench.findings[value] ?? value;
  return `${shown(value.min)} to ${shown(value.max)}`;
}

/** Ranges of a usual hand-held meter, full scale. */
const VOLT_RANGES = [0.4, 4, 40, 400] as const;
const OHM_RANGES = [400, 4e3, 40e3, 400e3, 4e6, 40e6] as const;

/** The range to choose on the meter: the smallest that holds whatever any outcome may read; null where there is none to choose. */
export function rangeText(test: Pick<NextTest, "meter" | "outcomes" | "expect">): string | null {
  const ranges = test.meter === "volts-dc" || test.meter === "volts-ac" ? VOLT_RANGES : test.meter === "ohms" ? OHM_RANGES : null;
  if (ranges === null) return null;
  const ends = [test.expect.low, test.expect.high].flatMap((value) => (value === null ? [] : [Math.abs(value)]));
  const top = Math.max(...ends, test.meter === "ohms" ? 1 : 5);
  const range = ranges.find((full) => full >= 1.05 * top) ?? ranges.at(-1);
  return range === undefined ? null : `${printShorthand(range, 2)} ${test.meter === "ohms" ? "Ω" : "V"} range`;
}

/** How a scope is set, in a line: coupling, volts and time a division, trigger. */
export function scopeText({ coupling, voltsPerDivision, secondsPerDivision, triggerVolts }: NonNullable<NextTest["scope"]>): string {
  const trigger = triggerVolts === null ? "free running" : `trigger at ${formatQuantity(triggerVolts, "V")}`;
  return `${coupling.toUpperCase()} coupled, ${formatQuantity(voltsPerDivision, "V")} and ${formatQuantity(secondsPerDivision, "s")} a division, ${trigger}, peak capture on`;
}

/** Whether a value lies in its healthy window; null where that cannot be said. */
export function within(value: Reading["value"], expect: Expect | null | undefined): boolean | null {
  if (!expect) return null;
  // Where no end is above, OL is as sound as a number.
  if (value === "OL" && expect.word === undefined && expect.low !== null && expect.high === null) return true;
  if (typeof value === "string") return expect.word === undefined ? false : value === expect.word;
  const number = typeof value === "number" ? value : value.max - value.min;
  if (expect.low === null && expect.high === null) return expect.word === undefined ? null : false;
  return (expect.low === null || number >= expect.low) && (expect.high === null || number <= expect.high);
}

/** A short title for a reading: what was measured between which points. @param circuits where a job has several, the title names the reading's own */
export function readingTitle(reading: Reading, circuits: readonly Pick<CircuitView, "id" | "title">[] = []): string {
  return ofCircuit(titleOfReading(reading, circuits), reading.circuit, circuits);
}

const SEEN_BY: Readonly<Partial<Record<Reading["meter"], string>>> = { look: "Look", listen: "Listen", notice: "Noticed" };

function titleOfReading(reading: Reading, circuits: readonly Named[]): string {
  if (reading.meter === "scan") return `${pinWord(reading.red.split("@")[0] ?? "", true)}, what the module reads`;
  const seen = SEEN_BY[reading.meter];
  if (seen !== undefined) return `${seen}: ${seenWord(reading.red)}`;
  if (reading.meter === "gauge") return reading.red === "twin" ? "Compared with a twin" : "Measured without the circuit";
  const own = reading.circuit ?? (circuits.length === 1 ? circuits[0]?.id : undefined);
  const from = capital(pointWordAmong(reading.red, own, circuits));
  const to = reading.black === undefined || reading.black === "bat-" ? "" : ` to ${pointWordAmong(reading.black, own, circuits)}`;
  const meter = reading.meter === "volts-dc" ? "" : `, ${inSentence(messages.bench.meter[reading.meter])}`;
  return `${from}${to}${meter}`;
}

/** The shop's limit for a ground drop, volts, where a test or reading is one: a ground wire of a circuit against battery negative. */
export function groundLimit(
  test: { readonly meter: string; readonly red: string; readonly black?: string | null | undefined; readonly setup?: Setup | undefined },
  circuit: CircuitView | undefined,
  policy: Pick<ShopSettings["policy"], "groundMillivolts" | "crankingMillivolts"> | undefined,
): number | null {
  if (policy === undefined || test.meter !== "volts-dc" || test.black !== "bat-" || (test.setup?.open ?? []).length > 0) return null;
  const point = parsePoint(test.red);
  const car = point?.kind === "fixed" && (point.point === "chassis" || point.point === "engine");
  const role = point?.kind === "pin" ? circuit?.pins.find(({ pin }) => pin === point.pin)?.role : undefined;
  if (!car && (role === undefined || role === "car-ground" || !isGroundRole(role))) return null;
  return (test.setup?.key === "crank" ? policy.crankingMillivolts : policy.groundMillivolts) / 1000;
}
