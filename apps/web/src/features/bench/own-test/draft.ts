import type { CircuitView } from "@fox-lamp/core";
import {
  ADDED_KINDS,
  type Added,
  type KeyState,
  METERS,
  type Measurement,
  type Meter,
  meterWords,
  type NextTest,
  parsePoint,
  parseShorthand,
  pinWord,
  placeWord,
  type Setup,
  type STIMULI,
} from "@fox-lamp/language";
import { messages } from "../../../messages";

const own = messages.ownTest;

export type Stimulus = (typeof STIMULI)[number];

/** A part put into the circuit, as it is being described: ohms as typed. */
export interface DraftPart {
  readonly kind: Added["kind"];
  readonly from: string;
  readonly to: string;
  readonly ohms: string;
}

/** A test somebody puts together: what is read where, in which state, with what added and done. Numbers as typed. */
export interface Draft {
  readonly circuit: string;
  readonly meter: Meter;
  readonly red: string;
  readonly black: string;
  /** What is looked at, listened to or noticed. */
  readonly seen: string;
  readonly record: boolean;
  readonly key: KeyState;
  readonly rpm: string;
  readonly open: readonly string[];
  readonly add: readonly DraftPart[];
  readonly stimulus: Stimulus;
  readonly at: string;
  readonly steel: "unknown" | "at" | "away";
  readonly level: "unknown" | "high" | "low";
  readonly position: string;
}

/** Why a draft is no test yet: which field, and what is expected there. */
export interface DraftProblem {
  readonly field: "rpm" | "position" | `ohms${number}` | "leads";
  readonly message: string;
}

/** Instruments in the order they are listed; all that people use, eyes and ears included. */
export const OWN_METERS: readonly Meter[] = METERS.filter((meter) => meter !== "gauge");
const RECORDED: readonly Meter[] = ["volts-dc", "ohms", "scan", "volts-ac", "hertz", "duty", "amps-dc"];
/** Whether a meter can keep lowest and highest. */
export const canRecord = (meter: Meter): boolean => RECORDED.includes(meter);
/** Whether a second lead belongs to a meter: a clamp has none. */
export const hasBlack = (meter: Meter): boolean => meterWords(meter).leads && meter !== "amps-dc";
/** Whether a meter has a lead at all. */
export const hasRed = (meter: Meter): boolean => meterWords(meter).leads || meter === "scan";

/** What is noticed without an instrument, in the words of the language. */
const NOTICED = ["spark", "tachometer", "check-lamp", "relay", "fuel-pump", "starter", "engine"] as const;
const POSTS = ["bat-", "bat+", "chassis", "engine"] as const;

/** Connectors of a circuit in the order a wire passes them, the module's included. */
export function connectorsOf(circuit: CircuitView): string[] {
  return [...new Set(circuit.pins.flatMap(({ contacts }) => contacts))];
}

/** A point of the job with its words; its circuit is named where it is another than the test's. */
export interface PointOption {
  readonly value: string;
  readonly label: string;
  readonly group: string;
}

/** An inline connector has two halves, told apart where it is unplugged; of the others only the harness half is a place. */
function halvesOf(place: string, contacts: readonly string[]): string[] {
  return place.startsWith("C") && contacts.includes(place) ? [place, `${place}.out`] : [place];
}

/** Every point a lead can be put on: the circuit's own first, then posts and grounds, then other circuits' points. */
export function pointsOf(circuit: CircuitView, circuits: readonly CircuitView[]): PointOption[] {
  const of = (view: CircuitView, prefix: string): PointOption[] =>
    view.pins.flatMap(({ pin, places, contacts, reachesPart, colour }) =>
      [...places.flatMap((place) => halvesOf(place, contacts)), ...(reachesPart ? ["part"] : [])].map((place) => ({
        value: `${prefix}${pin}@${place}`,
        label: `${pinWord(pin, true)} ${place === "part" ? own.onPart : placeWord(place)}${colour === null ? "" : `, ${colour}`}${prefix === "" ? "" : `, ${view.title}`}`,
        group: view.title,
      })),
    );
  return [
    ...of(circuit, ""),
    ...POSTS.map((post) => ({ value: post, label: own.posts[post], group: own.car })),
    ...circuits.filter(({ id }) => id !== circuit.id).flatMap((view) => of(view, `${view.id}:`)),
  ];
}

/** Connectors of the job that can be unplugged: the circuit's own, then those of other circuits. The module is one for all. */
export function plugsOf(circuit: CircuitView, circuits: readonly CircuitView[]): PointOption[] {
  const of = (view: CircuitView, prefix: string): PointOption[] =>
    connectorsOf(view)
      .filter((place) => prefix === "" || place !== "module")
      .map((place) => ({ value: `${prefix}${place}`, label: placeName(place, view), group: view.title }));
  return [...of(circuit, ""), ...circuits.filter(({ id }) => id !== circuit.id).flatMap((view) => of(view, `${view.id}:`))];
}

/** A connector's name: the part's own, the module's, or as it is written on it. */
export function placeName(place: string, circuit: CircuitView): string {
  return place === "sensor" ? circuit.part : place === "module" ? messages.bench.moduleWord : place;
}

/** Where something can be moved, tapped or warmed. */
export function stimulusPlaces(circuit: CircuitView): PointOption[] {
  const named = (value: string, label: string): PointOption => ({ value, label, group: "" });
  return [...connectorsOf(circuit).map((place) => named(place, placeName(place, circuit))), named("loom", own.loom), named("part", own.onPart)];
}

/** What can be looked at, listened to or noticed. */
export function seenOptions(meter: Meter, circuit: CircuitView): PointOption[] {
  const named = (value: string, label: string): PointOption => ({ value, label, group: "" });
  if (meter === "notice") return NOTICED.map((what) => named(what, own.noticed[what]));
  if (meter === "listen") return [named("part", circuit.part)];
  return [
    ...connectorsOf(circuit).map((place) => named(place, own.lookInto(placeName(place, circuit)))),
    named("loom", own.loom),
    named("target", own.target),
    named("part", own.port),
  ];
}

/** A new draft on a circuit: its signal at the sensor against battery negative, key on, everything plugged. */
export function draftFor(circuit: CircuitView): Draft {
  const pin = circuit.pins.find(({ role }) => role === "signal") ?? circuit.pins.find(({ places }) => places.length > 0);
  const place = pin?.places.includes("sensor") ? "sensor" : (pin?.places.at(-1) ?? "module");
  return {
    circuit: circuit.id,
    meter: "volts-dc",
    red: pin === undefined ? "chassis" : `${pin.pin}@${place}`,
    black: "bat-",
    seen: "sensor",
    record: false,
    key: "on",
    rpm: "",
    open: [],
    add: [],
    stimulus: "none",
    at: "",
    steel: "unknown",
    level: "unknown",
    position: "",
  };
}

/** Where a draft starts from: leads already put on, and the test at hand where it differs from that by its leads alone. */
export interface Start {
  readonly circuit: string;
  readonly red: string;
  readonly black: string | null;
  readonly like: NextTest | null;
}

/** A draft with leads already put on; of a test it is like it takes over instrument, state, plugs and parts. */
export function draftFrom({ red, black, like }: Start, circuit: CircuitView): Draft {
  const plain = { ...draftFor(circuit), red, black: black ?? "bat-" };
  if (like === null) return plain;
  const { key, rpm, open = [], add = [], stimulus } = like.setup;
  return {
    ...plain,
    meter: like.meter,
    record: like.record !== undefined,
    key: key ?? plain.key,
    rpm: rpm === undefined ? "" : String(rpm),
    open,
    add: add.map(({ kind, from, to, ohms }) => ({ kind, from, to, ohms: ohms === undefined ? "" : String(ohms) })),
    stimulus: stimulus?.kind ?? "none",
    at: stimulus?.at ?? "",
  };
}

/** A draft with another instrument: what cannot stay is put right. */
export function withMeter(draft: Draft, meter: Meter, circuit: CircuitView): Draft {
  const seen = seenOptions(meter, circuit);
  return {
    ...draft,
    meter,
    record: draft.record && canRecord(meter),
    seen: seen.some(({ value }) => value === draft.seen) ? draft.seen : (seen[0]?.value ?? ""),
    // Resistance is measured with the key off.
    key: meter === "ohms" || meter === "continuity" ? "off" : draft.key,
  };
}

const AT_PLACE: readonly Stimulus[] = ["wiggle", "tap", "heat", "cool"];
/** Whether a stimulus is done somewhere. */
export const hasPlace = (stimulus: Stimulus): boolean => AT_PLACE.includes(stimulus);

/** A number in a field as typed; null when it is left empty. */
function typedNumber(text: string, unit: string): number | null | "bad" {
  if (text.trim() === "") return null;
  const parsed = parseShorthand(text);
  return parsed.ok && typeof parsed.value === "number" && (parsed.unit === null || parsed.unit === unit) ? parsed.value : "bad";
}

type Setups = { readonly ok: true; readonly setup: Setup } | { readonly ok: false; readonly problem: DraftProblem };

function setupOf(draft: Draft): Setups {
  const bad = (field: DraftProblem["field"], message: string): Setups => ({ ok: false, problem: { field, message } });
  const added: Added[] = [];
  for (const [index, { kind, from, to, ohms: text }] of draft.add.entries()) {
    if (from === to) return bad(`ohms${index}`, own.sameEnds);
    if (kind !== "resistor") {
      added.push({ kind, from, to });
      continue;
    }
    const ohms = typedNumber(text, "ohm");
    if (ohms === null || ohms === "bad" || ohms <= 0) return bad(`ohms${index}`, own.badOhms(text));
    added.push({ kind, from, to, ohms });
  }
  const rpm = draft.key === "rev" ? typedNumber(draft.rpm, "rpm") : null;
  if (rpm === "bad" || (rpm !== null && rpm < 0)) return bad("rpm", own.badRpm(draft.rpm));
  const position = typedNumber(draft.position, "%");
  if (position === "bad") return bad("position", own.badPosition(draft.position));
  const truth = { ...(position === null ? {} : { position }), ...(draft.level === "unknown" ? {} : { level: draft.level }) };
  const { stimulus, at } = draft;
  const setup: Setup = {
    key: draft.key,
    ...(rpm === null ? {} : { rpm }),
    ...(draft.open.length === 0 ? {} : { open: [...draft.open] }),
    ...(added.length === 0 ? {} : { add: added }),
    ...(stimulus === "none" ? {} : { stimulus: { kind: stimulus, ...(hasPlace(stimulus) && at !== "" ? { at } : {}) } }),
    ...(draft.steel === "unknown" ? {} : { steel: draft.steel }),
    ...(Object.keys(truth).length === 0 ? {} : { truth }),
  };
  return { ok: true, setup };
}

/** The measurement a draft describes, or the field that keeps it from being one. What the whole job knows is put in by the core. */
export function measurementOfDraft(
  draft: Draft,
): { readonly ok: true; readonly measurement: Measurement } | { readonly ok: false; readonly problem: DraftProblem } {
  const made = setupOf(draft);
  if (!made.ok) return made;
  const { circuit, meter, red, black, seen, record } = draft;
  const { setup } = made;
  if (!hasRed(meter)) return { ok: true, measurement: { circuit, meter, red: seen, setup } };
  if (hasBlack(meter) && red === black) return { ok: false, problem: { field: "leads", message: own.sameLeads } };
  const point = parsePoint(red);
  const watched = meter === "scan" && point?.kind === "pin" ? `${point.circuit === null ? "" : `${point.circuit}:`}${point.pin}@module` : red;
  return {
    ok: true,
    measurement: {
      circuit,
      meter,
      red: watched,
      ...(hasBlack(meter) ? { black } : {}),
      setup,
      ...(record && canRecord(meter) ? { record: "min-max" as const } : {}),
    },
  };
}

export const PART_KINDS: readonly Added["kind"][] = ADDED_KINDS;
