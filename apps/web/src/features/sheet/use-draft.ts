import { type CircuitView, curveSlotOf, type Family, familyById, viewsOf } from "@fox-lamp/core";
import { BadInput, type Circuit, circuitSchema, parseOrThrow } from "@fox-lamp/language";
import { useMemo, useState } from "react";
import { messages } from "../../messages";
import { fieldsOf, keepingOrigins, type ParameterField, parametersIn, toleranceOf, toleranceTyped, typedOf } from "./parameters";

const t = messages.sheet;

/** A circuit as it is being typed. */
export interface Draft {
  readonly id: string;
  readonly family: string;
  readonly title: string;
  readonly source: string;
  readonly torque: string;
  readonly sealant: string;
  readonly parameters: Readonly<Record<string, string>>;
  /** Of its curve, percent of what it shows. */
  readonly tolerance: string;
  readonly cavities: Readonly<Record<string, string>>;
  readonly colours: Readonly<Record<string, string>>;
  readonly inline: string;
  readonly bus: string;
  readonly join: string;
  readonly sensorMinutes: string;
  readonly moduleMinutes: string;
  readonly codes: Readonly<Record<string, string>>;
}

const EMPTY: Draft = {
  id: "",
  family: "thermistor-2w",
  title: "",
  source: "",
  torque: "",
  sealant: "",
  parameters: {},
  tolerance: "",
  cavities: {},
  colours: {},
  inline: "",
  bus: "",
  join: "module",
  sensorMinutes: "",
  moduleMinutes: "",
  codes: {},
};

function draftOf(circuit: Circuit | undefined): Draft {
  if (circuit === undefined) return EMPTY;
  const texts = (record: Readonly<Record<string, unknown>> | undefined): Record<string, string> =>
    Object.fromEntries(Object.entries(record ?? {}).map(([name, value]) => [name, typedOf(value)]));
  return {
    id: circuit.id,
    family: circuit.family,
    title: circuit.title ?? "",
    source: typeof circuit["source"] === "string" ? circuit["source"] : "",
    torque: typeof circuit["torque"] === "string" ? circuit["torque"] : "",
    sealant: typeof circuit["sealant"] === "string" ? circuit["sealant"] : "",
    parameters: texts(circuit.with),
    tolerance: toleranceOf(circuit.with?.[curveSlotOf(circuit.family)?.parameter ?? ""]),
    cavities: texts(circuit.cavities),
    colours: texts(circuit.colours),
    inline: (circuit.inline ?? []).join(" "),
    bus: circuit.shares?.["ref"] ?? circuit.shares?.["feed"] ?? "",
    join: circuit.shares?.["join"] ?? "module",
    sensorMinutes: typedOf(circuit.access?.["sensor"]),
    moduleMinutes: typedOf(circuit.access?.["module"]),
    codes: texts(circuit.codes),
  };
}

function filled(record: Readonly<Record<string, string>>, pins: readonly string[]): Record<string, string> {
  return Object.fromEntries(Object.entries(record).flatMap(([name, value]) => (value.trim() === "" || !pins.includes(name) ? [] : [[name, value.trim()]])));
}

/** The parameters with the curve's tolerance, where one is typed for a curve of the sheet's own. */
function withTolerance({ family, tolerance }: Draft, parameters: Record<string, unknown>): Record<string, unknown> {
  const name = curveSlotOf(family)?.parameter ?? "";
  const spread = toleranceTyped(tolerance);
  return spread === null || parameters[name] === undefined ? parameters : { ...parameters, [name]: { value: parameters[name], from: "specified", spread } };
}

/** Fields of a circuit that the form shows. */
const SHOWN = ["id", "family", "title", "source", "torque", "sealant", "with", "cavities", "colours", "inline", "shares", "access", "codes"];

/** The circuit a draft stands for. What the form does not show (minutes to inline connectors, look-alikes) is kept from the start. */
function circuitIn(draft: Draft, family: Family, parameters: Record<string, unknown>, start: Circuit | undefined): Circuit {
  const minutes = (text: string): number | undefined => (text.trim() === "" ? undefined : Number(text.replace(",", ".")));
  const [sensor, module] = [minutes(draft.sensorMinutes), minutes(draft.moduleMinutes)];
  const access = { ...start?.access, ...(sensor === undefined ? {} : { sensor }), ...(module === undefined ? {} : { module }) };
  const inline = draft.inline
    .trim()
    .split(/[\s,;]+/u)
    .filter(Boolean);
  const reference = family.referenceParameter === "feedV" ? "feed" : "ref";
  const some = <T extends object>(name: string, record: T): Record<string, T> => (Object.keys(record).length === 0 ? {} : { [name]: record });
  const kept = Object.fromEntries(Object.entries(start ?? {}).filter(([name]) => !SHOWN.includes(name)));
  return {
    ...kept,
    id: draft.id.trim(),
    family: draft.family,
    ...(draft.title.trim() === "" ? {} : { title: draft.title.trim() }),
    ...(draft.source.trim() === "" ? {} : { source: draft.source.trim() }),
    ...(draft.torque.trim() === "" ? {} : { torque: draft.torque.trim() }),
    ...(draft.sealant.trim() === "" ? {} : { sealant: draft.sealant.trim() }),
    ...some("with", keepingOrigins(withTolerance(draft, parameters), start?.with)),
    ...some("cavities", filled(draft.cavities, family.pins)),
    ...some("colours", filled(draft.colours, family.pins)),
    ...(inline.length > 0 ? { inline } : {}),
    ...(draft.bus === "" ? {} : { shares: { [reference]: draft.bus, join: draft.join } }),
    ...some("access", access),
    ...some("codes", filled(draft.codes, Object.keys(draft.codes))),
  };
}

export interface DraftState {
  readonly draft: Draft;
  readonly family: Family | null;
  readonly fields: readonly ParameterField[];
  readonly problems: Readonly<Record<string, string>>;
  /** What is wrong with the whole, in one sentence; null where it can be saved. */
  readonly problem: string | null;
  readonly circuit: Circuit | null;
  /** As it will be drawn; the last one that could be, while something is being typed. */
  readonly views: readonly CircuitView[] | null;
  readonly set: (part: Partial<Draft>) => void;
  readonly load: (circuit: Circuit) => void;
}

/** A circuit being typed, checked and drawn as it goes. @param others the circuits of the sheet besides this one */
export function useDraft(start: Circuit | undefined, others: readonly Circuit[]): DraftState {
  const [origin, setOrigin] = useState(start);
  const [draft, setDraft] = useState<Draft>(() => draftOf(start));
  const family = familyById(draft.family);
  const fields = useMemo(() => (family === null ? [] : fieldsOf(family)), [family]);
  const checked = useMemo(() => {
    if (family === null) return { problems: {}, problem: null, circuit: null, views: null };
    const { with: parameters, problems } = parametersIn(fields, draft.parameters);
    if (draft.tolerance.trim() !== "" && toleranceTyped(draft.tolerance) === null) problems["tolerance"] = t.badTolerance(draft.tolerance);
    if (Object.keys(problems).length > 0) return { problems, problem: Object.values(problems)[0] ?? null, circuit: null, views: null };
    if (!/^[^:@/\s]+$/u.test(draft.id.trim()))
      return { problems: { id: t.needsId }, problem: t.needsId, circuit: null, views: preview(draft, family, parameters, origin, others) };
    if (others.some(({ id }) => id === draft.id.trim())) {
      const taken = t.taken(draft.id.trim());
      return { problems: { id: taken }, problem: taken, circuit: null, views: null };
    }
    try {
      const circuit = parseOrThrow(circuitSchema, circuitIn(draft, family, parameters, origin));
      return { problems: {}, problem: null, circuit, views: viewsOf([...others, circuit]) };
    } catch (error) {
      if (error instanceof BadInput) return { problems: {}, problem: error.message, circuit: null, views: null };
      throw error;
    }
  }, [draft, family, fields, origin, others]);
  return {
    draft,
    family,
    fields,
    ...checked,
    set: (part) => setDraft((before) => ({ ...before, ...part })),
    load: (circuit) => {
      setOrigin(circuit);
      setDraft(draftOf(circuit));
    },
  };
}

/** The drawing of a circuit that has no name yet. */
function preview(
  draft: Draft,
  family: Family,
  parameters: Record<string, unknown>,
  start: Circuit | undefined,
  others: readonly Circuit[],
): CircuitView[] | null {
  try {
    return viewsOf([...others, circuitIn({ ...draft, id: "new" }, family, parameters, start)]);
  } catch {
    return null;
  }
}
