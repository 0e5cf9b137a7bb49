import type { Circuit, JobDetail, Reading, ShelfRecord } from "@fox-lamp/language";
import { unitOfReading } from "@fox-lamp/language";
import { BookmarkPlus } from "lucide-react";
import { messages } from "../messages";
import { toast } from "../ui/toast";
import { vehicleName } from "../ui/vehicle";
import { reasonOf, usePutSpecMutation } from "./api";
import { useSession } from "./session";

const t = messages.shelfLimits;
const UNITS: ReadonlySet<string> = new Set(["V", "ohm", "A", "Hz", "%"]);

/** A reading as something to compare with on sister vehicles; null where it is no plain number of a known model. */
export function knownOf(job: Pick<JobDetail, "vehicle" | "number">, circuit: Circuit | undefined, reading: Reading, today: string): ShelfRecord | null {
  const { make, model, engine } = job.vehicle;
  const unit = unitOfReading(reading);
  const { meter, red, black, setup = {}, value } = reading;
  if (circuit === undefined || make === undefined || model === undefined || typeof value !== "number" || !UNITS.has(unit) || (setup.add ?? []).length > 0)
    return null;
  const { key = "on", open, truth } = setup;
  return {
    kind: "known",
    record: {
      vehicle: { make, model, ...(engine === undefined ? {} : { engine }) },
      family: circuit.family,
      meter,
      red,
      ...(black === undefined ? {} : { black }),
      setup: { key, ...(open === undefined ? {} : { open }), ...(truth === undefined ? {} : { truth }) },
      value,
      unit,
      source: { kind: "own", title: `${vehicleName(job.vehicle)}, job ${job.number}` },
      date: today,
    },
  };
}

/** Puts a reading that is as it should be on the shelf, for sister vehicles to be compared with; nothing where it cannot be, or for a trainee. */
export function KeepReading({ job, reading }: { job: JobDetail; reading: Reading }) {
  const [put, { isLoading }] = usePutSpecMutation();
  const me = useSession();
  const circuit = job.circuits.find(({ id }) => id === reading.circuit) ?? (job.circuits.length === 1 ? job.circuits[0] : undefined);
  const item = knownOf(job, circuit, reading, new Date().toISOString().slice(0, 10));
  if (item === null || me?.role === "trainee") return null;
  const keep = async (): Promise<void> => {
    const answer = await put({ id: null, item });
    if ("error" in answer) toast.error(reasonOf(answer.error) ?? messages.states.failed);
    else toast.success(t.kept);
  };
  return (
    <button
      type="button"
      disabled={isLoading}
      onClick={() => void keep()}
      className="mt-1 mr-3 inline-flex min-h-11 items-center gap-1 text-sm text-soft underline underline-offset-4"
    >
      <BookmarkPlus size={16} aria-hidden="true" /> {t.keepKnown}
    </button>
  );
}
