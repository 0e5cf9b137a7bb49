import type { NewEntry, NewJob, RegisteredVehicle, Vehicle } from "@fox-lamp/language";
import { largeNumberIn, numberIn } from "../../ui/form";

/** What is typed at intake. */
export interface Form {
  name: string;
  make: string;
  model: string;
  year: string;
  engine: string;
  plate: string;
  mileage: string;
  complaint: string;
  when: string;
  previous: string;
}

const EMPTY: Form = { name: "", make: "", model: "", year: "", engine: "", plate: "", mileage: "", complaint: "", when: "", previous: "" };
const DRAFT_KEY = "fox-lamp/intake";

/** What was typed before a reload; empty where nothing was. */
export function keptDraft(): Form {
  try {
    return { ...EMPTY, ...(JSON.parse(sessionStorage.getItem(DRAFT_KEY) ?? "{}") as Partial<Form>) };
  } catch {
    return EMPTY;
  }
}

/** Keeps what is typed, until the job is there. @param form null once it is */
export function keepDraft(form: Partial<Form> | null): void {
  if (form === null) sessionStorage.removeItem(DRAFT_KEY);
  else sessionStorage.setItem(DRAFT_KEY, JSON.stringify(form));
}

/** What the form says of the vehicle. */
export function vehicleIn(form: Form): Vehicle {
  const year = numberIn(form.year);
  const mileageKm = largeNumberIn(form.mileage);
  const texts = Object.fromEntries(
    (["name", "make", "model", "engine", "plate"] as const).flatMap((key) => (form[key].trim() === "" ? [] : [[key, form[key].trim()]])),
  );
  return { ...texts, ...(typeof year === "number" ? { year } : {}), ...(typeof mileageKm === "number" ? { mileageKm } : {}) };
}

/** What is chosen beside what is typed. */
export interface Choices {
  /** A vehicle of the register; null for a new one. */
  readonly chosen: RegisteredVehicle | null;
  readonly hints: readonly string[];
  readonly passing: boolean;
  /** Whether the vehicle's circuits come along, and what its last job left open. */
  readonly along: boolean;
  readonly leftOpen: NonNullable<JobFacts["leftOpen"]> | null;
}

type JobFacts = NonNullable<Extract<NewEntry, { kind: "conditions" }>["body"]["facts"]>;

/** The job a form opens, with its first entries. @param base when and by whom it is entered; `nextId` names an entry */
export function newJobOf(form: Form, { chosen, hints, passing, along, leftOpen }: Choices, base: Pick<NewEntry, "at" | "by">, nextId: () => string): NewJob {
  const typed = vehicleIn(form);
  const mileage = typed.mileageKm;
  const complaint: NewEntry = {
    ...base,
    id: nextId(),
    kind: "complaint",
    body: {
      text: form.complaint.trim(),
      ...(form.when.trim() ? { when: form.when.trim() } : {}),
      ...(form.previous.trim() ? { previous: form.previous.trim() } : {}),
      ...(mileage === undefined ? {} : { mileageKm: mileage }),
    },
  };
  const facts = leftOpen === null || !along ? {} : { facts: { leftOpen } };
  const known: NewEntry = { ...base, id: nextId(), kind: "conditions", body: { hints: [...hints], ...(passing ? { intermittent: true } : {}), ...facts } };
  return {
    ...(chosen === null ? { vehicle: typed } : { vehicleId: chosen.id, ...(mileage === undefined ? {} : { vehicle: { mileageKm: mileage } }) }),
    circuits: chosen !== null && along ? chosen.circuits : [],
    entries: hints.length > 0 || passing || "facts" in facts ? [complaint, known] : [complaint],
  };
}
