import { familyById, formatQuantity, formatWindow, type PartInHand, specifiedOhms, windingOhmsWindow } from "@fox-lamp/core";
import { type Circuit, circuitOfUnit, type Expect, type Measurement, type Part, unitKindOf } from "@fox-lamp/language";
import { valueTyped } from "../../../circuit/typed";
import { isWinding } from "../../../circuit/winding";
import { messages } from "../../../messages";

const t = messages.repair;

/** A new part as it is being described: ohms and temperatures as typed. */
export interface PartDraft {
  readonly number: string;
  readonly variant: string;
  readonly source: "original" | "other";
  readonly same: boolean;
  readonly oldOhms: string;
  readonly newOhms: string;
  readonly twinOhms: string;
  readonly oldTemperature: string;
  readonly newTemperature: string;
  readonly seal: string;
  readonly torque: string;
  readonly torqueSource: string;
}
export const NO_PART: PartDraft = {
  number: "",
  variant: "",
  source: "original",
  same: true,
  oldOhms: "",
  newOhms: "",
  twinOhms: "",
  oldTemperature: "",
  newTemperature: "",
  seal: "",
  torque: "",
  torqueSource: "",
};

type Typed<T> = { readonly ok: true; readonly value: T | null } | { readonly ok: false; readonly message: string };
type Ohms = number | "OL";

/** A resistance as it is typed anywhere else: k and M, a unit, or OL; nothing where nothing is typed. */
function ohmsIn(text: string): Typed<Ohms> {
  if (text.trim() === "") return { ok: true, value: null };
  const typed = valueTyped(text, { meter: "ohms", red: "" });
  if (!typed.ok) return typed;
  if (typed.value === "OL" || (typeof typed.value === "number" && typed.value >= 0)) return { ok: true, value: typed.value };
  return { ok: false, message: messages.notANumber(text) };
}

/** A temperature in the unit this device shows, as degC. */
function temperatureIn(text: string): Typed<number> {
  if (text.trim() === "") return { ok: true, value: null };
  const typed = valueTyped(text, { meter: "gauge", red: "part", unit: "degC" });
  if (!typed.ok) return typed;
  return typeof typed.value === "number" ? { ok: true, value: typed.value } : { ok: false, message: messages.notANumber(text) };
}

type Field = "oldOhms" | "newOhms" | "twinOhms" | "oldTemperature" | "newTemperature";

/** What a part that was fitted is held against: the old one, the twin and the specification. */
export interface Compared {
  /** The part for the record; null while something typed cannot be. */
  readonly part: Part | null;
  /** What is wrong with what was typed. */
  readonly problems: Readonly<Partial<Record<Field, string>>>;
  /** The new part against the specification at its temperature, in words; undefined where either is not known. */
  readonly hint: string | undefined;
  /** Old beside new, new beside the twin, in words. */
  readonly beside: readonly string[];
  readonly outside: boolean;
  /** Whether there is anything on record by which it was compared and found right. */
  readonly matches: boolean;
}

/** Two parts further apart than this are not alike, a share of the smaller one. */
const ALIKE = 0.2;

function apart(one: number, other: number): number {
  return Math.abs(one - other) / Math.max(Math.min(one, other), Number.MIN_VALUE);
}

/** How the part of a sensor's own terminals is measured at a temperature; null for parts whose resistance does not follow one by a curve. */
export function curveMeasurement(unit: string, circuit: Circuit | undefined, degC: number | null): Measurement | null {
  if (circuit === undefined || degC === null || unitKindOf(unit) !== "sensor" || familyById(circuit.family)?.traits.kind !== "temperature") return null;
  const setup = { key: "off" as const, open: ["sensor"], truth: { temperature: degC } };
  return { circuit: circuit.id, meter: "ohms", red: "sig@part", black: "gnd@part", setup };
}

/** The temperature that was typed for the new part, degC; null where none was, or it is none. */
export function newTemperatureOf({ newTemperature }: PartDraft): number | null {
  const typed = temperatureIn(newTemperature);
  return typed.ok ? typed.value : null;
}

/** The new part as the shelf's look-alikes are held against it. */
export function handOf({ newOhms, newTemperature }: PartDraft): PartInHand {
  const [ohms, degC] = [ohmsIn(newOhms), temperatureIn(newTemperature)];
  return { ohms: ohms.ok && typeof ohms.value === "number" ? ohms.value : undefined, degC: degC.ok && degC.value !== null ? degC.value : undefined };
}

/** The sheet's window of a part at a temperature: a winding by its copper, any other as it is given. */
function windowAt(unit: string, circuit: Circuit | undefined, degC: number | null, curve: Expect | null): readonly [number, number] | null {
  if (curve !== null && curve.low !== null && curve.high !== null) return [curve.low, curve.high];
  const window = circuit === undefined ? null : specifiedOhms(circuit, unit);
  const winding = unitKindOf(unit) === "coil" || (circuit !== undefined && isWinding(circuit.family));
  return window === null || !winding ? window : windingOhmsWindow(window, degC);
}

const shown = (ohms: Ohms): string => (ohms === "OL" ? "OL" : formatQuantity(ohms, "ohm"));

/** Old beside new and new beside its twin, where both are known; whether they are alike is said, not judged: a worn part is no measure. */
function besideWords(old: Ohms | null, fresh: Ohms | null, twin: Ohms | null): string[] {
  const of = (other: Ohms | null, words: (other: string, fresh: string) => string, alike: boolean): string[] => {
    if (other === null || fresh === null) return [];
    const said = words(shown(other), shown(fresh));
    if (other === "OL" || fresh === "OL") return [said];
    const share = apart(other, fresh);
    return [`${said} ${share <= ALIKE && alike ? t.alike : t.apartBy(Math.round(100 * share))}`];
  };
  return [...of(old, t.oldNew, false), ...of(twin, t.twinNew, true)];
}

/**
 * Compares a new part with the old one, its twin and the specification of its circuit.
 * @param curve what a sound part shows at the new part's temperature, where that follows a curve
 */
export function compared(draft: PartDraft, unit: string, circuits: readonly Circuit[], curve: Expect | null = null): Compared {
  const circuit = circuits.find(({ id }) => id === circuitOfUnit(unit));
  const typed = {
    oldOhms: ohmsIn(draft.oldOhms),
    newOhms: ohmsIn(draft.newOhms),
    twinOhms: ohmsIn(draft.twinOhms),
    oldTemperature: temperatureIn(draft.oldTemperature),
    newTemperature: temperatureIn(draft.newTemperature),
  };
  const problems: Partial<Record<Field, string>> = {};
  const values: Partial<Record<Field, Ohms>> = {};
  for (const [field, one] of Object.entries(typed) as [Field, Typed<Ohms>][]) {
    if (!one.ok) problems[field] = one.message;
    else if (one.value !== null) values[field] = one.value;
  }
  const { oldOhms = null, newOhms = null, twinOhms = null } = values;
  const degC = typed.newTemperature.ok ? typed.newTemperature.value : null;
  const window = windowAt(unit, circuit, degC, curve);
  const outside = window !== null && newOhms !== null && (newOhms === "OL" || newOhms < window[0] || newOhms > window[1]);
  const limits = window === null ? "" : `${formatWindow(window[0], window[1], "ohm")}${degC === null ? "" : t.atTemperature(formatQuantity(degC, "degC"))}`;
  const hint = window === null || newOhms === null ? undefined : (outside ? t.outside : t.inside)(limits);
  const texts = Object.fromEntries(
    (["number", "variant", "seal", "torque", "torqueSource"] as const).flatMap((key) => (draft[key].trim() === "" ? [] : [[key, draft[key].trim()]])),
  );
  const part = Object.keys(problems).length > 0 ? null : ({ ...texts, source: draft.source, shape: draft.same, ...values } as Part);
  return { part, problems, hint, beside: besideWords(oldOhms, newOhms, twinOhms), outside, matches: draft.same && !outside && newOhms !== null };
}
