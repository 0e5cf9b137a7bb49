import { type JobState, viewsOf } from "@fox-lamp/core";
import { BadInput, type Circuit, type Reading } from "@fox-lamp/language";
import { useMemo, useState } from "react";
import { useNavigate } from "react-router";
import { reasonOf, useChangeVehicleMutation, useVehicleQuery } from "../../app/api";
import { namedInTurn } from "../../app/reading-names";
import { useEnter, type useJob } from "../../app/use-job";
import { messages } from "../../messages";
import { toast } from "../../ui/toast";
import { vehicleName } from "../../ui/vehicle";
import { circuitsIn } from "./circuits-in";
import type { CurveField } from "./SheetCurve";
import { useDraft } from "./use-draft";

const t = messages.sheet;

export type Job = NonNullable<ReturnType<typeof useJob>["job"]>;

/** What a measurement at a cavity takes, minutes. */
const MINUTES_A_CAVITY = 0.5;

/** A circuit as it is typed, and what is done with it: kept with job and vehicle, taken off, read from a file. @param edited the circuit's id; none for a new one */
export function useSheet(job: Job, { readings: taken }: JobState, edited: string | undefined) {
  const navigate = useNavigate();
  const enter = useEnter(job.id);
  const { data: vehicle } = useVehicleQuery(job.vehicleId);
  const [changeVehicle] = useChangeVehicleMutation();
  const others = useMemo(() => job.circuits.filter(({ id }) => id !== edited), [job.circuits, edited]);
  const draft = useDraft(
    job.circuits.find(({ id }) => id === edited),
    others,
  );
  // What was measured to find the cavities is entered with the circuit it belongs to.
  const [measured, setMeasured] = useState<readonly Reading[]>([]);
  const [tried, setTried] = useState(false);
  const [fileProblem, setFileProblem] = useState<string | null>(null);

  const put = async (circuits: readonly Circuit[]): Promise<void> => {
    enter(...circuits.map((one) => ({ kind: "circuit" as const, body: { circuit: one } })));
    const kept = (vehicle?.circuits ?? []).filter(({ id }) => !circuits.some((one) => one.id === id));
    const answer = await changeVehicle({ id: job.vehicleId, circuits: [...kept, ...circuits] });
    if ("error" in answer) toast.error(reasonOf(answer.error) ?? messages.states.failed);
    else toast.success(t.saved);
  };
  const toTriage = (): void => void navigate(`/jobs/${job.id}/triage`);
  const save = async (): Promise<void> => {
    setTried(true);
    const { circuit } = draft;
    if (circuit === null) return;
    await put([circuit]);
    const named = namedInTurn(
      measured.map((reading) => ({ ...reading, circuit: circuit.id })),
      taken,
    );
    enter(...named.map((reading) => ({ kind: "reading" as const, body: { reading, minutes: MINUTES_A_CAVITY } })));
    toTriage();
  };
  const remove = (): void => {
    if (edited === undefined) return;
    // A circuit with readings stays: the sentence says what to do.
    if (enter({ kind: "circuit", body: { remove: edited } }).length > 0) toTriage();
  };
  const open = async (file: File): Promise<void> => {
    setFileProblem(null);
    try {
      const circuits = circuitsIn(await file.text(), file.name);
      viewsOf([...others.filter(({ id }) => !circuits.some((one) => one.id === id)), ...circuits]);
      const [only] = circuits;
      if (circuits.length === 1 && only) draft.load(only);
      else {
        await put(circuits);
        toTriage();
      }
    } catch (error) {
      if (!(error instanceof BadInput)) throw error;
      setFileProblem(`${file.name}: ${error.message}`);
    }
  };

  /** Circuits to start from that the job does not have: the vehicle's own, and its sisters'. */
  const starts = [
    ...(vehicle?.circuits ?? []).map((one) => ({ circuit: one, from: t.fromVehicle })),
    ...(vehicle?.sisters ?? []).flatMap(({ details, circuits }) =>
      circuits.map((one) => ({ circuit: one, from: messages.intake.sister(vehicleName(details)) })),
    ),
  ].filter(({ circuit: one }) => !job.circuits.some(({ id }) => id === one.id));
  const { draft: typed, problems, circuit, set } = draft;
  const curves: CurveField = {
    vehicle: job.vehicleId,
    family: typed.family,
    circuit,
    readings: taken.map(({ reading }) => reading),
    onSource: (source) => set({ source }),
    tolerance: typed.tolerance,
    toleranceProblem: problems["tolerance"],
    onTolerance: (tolerance) => set({ tolerance }),
  };
  return { draft, others, tried, fileProblem, setMeasured, save, remove, open, starts, curves };
}

export type Sheet = ReturnType<typeof useSheet>;
