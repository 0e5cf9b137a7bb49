import { type Circuit, circuitOfUnit, placeIn, type ShopSettings, unitKindOf } from "@fox-lamp/language";
import { provenUnits } from "./proven";
import type { JobState } from "./state";

/** What a repair leaves to do, as a stable name; the words are the interface's. */
export type TaskKind =
  | "compare-part"
  | "clean-first"
  | "seat"
  | "torque"
  | "contamination"
  | "count-wires"
  | "route-wires"
  | "contact"
  | "module-pins"
  | "seal"
  | "plug-in"
  | "keep-old";

/** A task raised by an earlier step; open until it is answered as done. */
export interface Task {
  /** Stable within the job: the kind, and what it concerns. */
  readonly id: string;
  readonly kind: TaskKind;
  /** What it concerns: a unit, a reading, connectors; empty for none. */
  readonly about: string;
  readonly done: boolean;
  /** What was written when it was answered. */
  readonly text: string;
}

/** The units condemned in a job: those of the last verdict or override, and what was found when located. */
export function condemnedUnits(state: Pick<JobState, "decisions" | "located">): string[] {
  const found = state.located.filter(({ way }) => way === "found").at(-1)?.unit;
  if (found !== undefined) return [found];
  const decided = state.decisions.filter(({ unit }) => typeof unit === "string").at(-1);
  if (!decided?.unit) return [];
  const group = Array.isArray(decided["group"]) ? (decided["group"] as unknown[]).filter((unit): unit is string => typeof unit === "string") : [];
  return group.length > 0 ? group : [decided.unit];
}

/**
 * The units whose repair leaves something to do: of every verdict the unit that was found or leads its group, else the one that was overridden,
 * and every unit something new was fitted to.
 */
export function workedUnits(state: Pick<JobState, "decisions" | "located" | "repairs">): string[] {
  const proven = provenUnits(state).flatMap(([first]) => first ?? []);
  const condemned = proven.length > 0 ? proven : condemnedUnits(state).slice(0, 1);
  const fitted = state.repairs.flatMap(({ unit, part }) => (unit !== undefined && part !== undefined ? [unit] : []));
  return [...new Set([...condemned, ...fitted])];
}

/** What kind of thing a unit is: it decides what its repair takes. */
export function unitKind(unit: string): "part" | "wire" | "contact" | "module" | "ground" | "battery" | "outside" {
  const kind = unitKindOf(unit);
  switch (kind) {
    case "wire":
    case "contact":
    case "module":
    case "ground":
    case "battery":
    case "outside":
      return kind;
    case "connector":
      return "contact";
    case "contacts":
      return "module";
    case "sensor":
    case "heater":
    case "coil":
    case null:
      return "part";
  }
}

function kindsFor(unit: string, families: ReadonlyMap<string, string>, settings: ShopSettings | null, cleanable: (family: string) => boolean): TaskKind[] {
  switch (unitKind(unit)) {
    case "part": {
      const cleaned = unitKindOf(unit) === "sensor" && cleanable(families.get(circuitOfUnit(unit)) ?? "");
      return [...(cleaned && settings?.policy.cleanFirst === true ? (["clean-first"] as const) : []), "compare-part", "seat", "torque", "contamination"];
    }
    case "wire":
      return ["count-wires", "route-wires"];
    case "contact":
    case "ground":
      return ["contact"];
    case "module":
      return ["module-pins", "compare-part"];
    case "battery":
      return ["compare-part"];
    case "outside":
      return [];
  }
}

/** Connectors that were unplugged for some reading, by name. */
function unplugged(state: JobState): string[] {
  return [
    ...new Set(
      state.readings.flatMap(({ reading }) =>
        (reading.setup?.open ?? []).map((place) => (reading.circuit === undefined ? place : placeIn(reading.circuit, place))),
      ),
    ),
  ];
}

/**
 * Everything earlier steps have left to do before the job may go on to its check: what the condemned unit's repair takes, holes to
 * seal, connectors to plug in again, the old part to keep where one was fitted before proof.
 *
 * @param cleanable whether the part of a family is cleaned before it is replaced
 */
export function tasksOf(circuits: readonly Circuit[], state: JobState, settings: ShopSettings | null, cleanable: (family: string) => boolean): Task[] {
  const families = new Map(circuits.map(({ id, family }) => [id, family]));
  const wanted: { kind: TaskKind; about: string }[] = workedUnits(state).flatMap((unit) =>
    kindsFor(unit, families, settings, cleanable).map((kind) => ({ kind, about: unit })),
  );
  for (const { reading } of state.readings) if (reading["pierced"] === true) wanted.push({ kind: "seal", about: `${reading.id} ${reading.red}` });
  const open = unplugged(state);
  if (open.length > 0 && state.stage !== "bench") wanted.push({ kind: "plug-in", about: open.join(", ") });
  if (state.decisions.some(({ decision }) => decision === "override")) wanted.push({ kind: "keep-old", about: "" });
  return wanted.map(({ kind, about }) => {
    const id = about === "" ? kind : `${kind} ${about}`;
    const answer = state.tasks.get(id);
    const counted = kind === "count-wires" && state.located.some(({ way, wires }) => way === "found" && wires !== undefined);
    return { id, kind, about, done: answer?.done ?? counted, text: answer?.text ?? "" };
  });
}
