import type { NewEntry, NewJob, RegisteredVehicle, Vehicle } from "@fox-lamp/language";
import { useEffect, useState } from "react";
import { useForm } from "react-hook-form";
import { useNavigate } from "react-router";
import { v7 as uuidv7 } from "uuid";
import { reasonOf, useCreateJobMutation, useVehicleQuery, useVehiclesQuery } from "../../app/api";
import { usePerson } from "../../app/session";
import { PageHead } from "../../app/shell";
import { leftOpenText } from "../../circuit/names-of";
import { messages } from "../../messages";
import { Block, Button, Chip, largeNumberIn, numberIn, TextArea, TextField } from "../../ui/form";
import { vehicleLine, vehicleName } from "../../ui/vehicle";

const t = messages.intake;
const HINTS = Object.keys(t.hint);

interface Form {
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

function keptDraft(): Form {
  try {
    return { ...EMPTY, ...(JSON.parse(sessionStorage.getItem(DRAFT_KEY) ?? "{}") as Partial<Form>) };
  } catch {
    return EMPTY;
  }
}

/** The register, searched while one types. */
function Register({ onChoose }: { onChoose: (vehicle: RegisteredVehicle) => void }) {
  const [text, setText] = useState("");
  const { data = [] } = useVehiclesQuery(text.trim());
  return (
    <div className="grid gap-2">
      <TextField label={t.find} type="search" value={text} onChange={(event) => setText(event.target.value)} />
      <ul className="m-0 grid max-h-60 list-none gap-1.5 overflow-y-auto p-0">
        {data.slice(0, 8).map((vehicle) => (
          <li key={vehicle.id}>
            <button type="button" onClick={() => onChoose(vehicle)} className="w-full rounded-lg border border-line px-3 py-2 text-left hover:border-lamp">
              <span className="font-bold">{vehicleName(vehicle.details)}</span>{" "}
              <span className="text-sm text-soft">{[vehicleLine(vehicle.details), vehicle.details.plate].filter(Boolean).join(" · ")}</span>
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}

function vehicleIn(form: Form): Vehicle {
  const year = numberIn(form.year);
  const mileageKm = largeNumberIn(form.mileage);
  const texts = Object.fromEntries(
    (["name", "make", "model", "engine", "plate"] as const).flatMap((key) => (form[key].trim() === "" ? [] : [[key, form[key].trim()]])),
  );
  return { ...texts, ...(typeof year === "number" ? { year } : {}), ...(typeof mileageKm === "number" ? { mileageKm } : {}) };
}

/** Intake: which vehicle, and the complaint in the customer's words. What is typed is kept until the job is there. */
export function NewJobPage() {
  const navigate = useNavigate();
  const by = usePerson();
  const [create, { isLoading }] = useCreateJobMutation();
  const [chosen, setChosen] = useState<RegisteredVehicle | null>(null);
  const [hints, setHints] = useState<readonly string[]>([]);
  const [passing, setPassing] = useState(false);
  const [along, setAlong] = useState(true);
  const [onward, setOnward] = useState(true);
  const [problem, setProblem] = useState<string | null>(null);
  const { register, handleSubmit, watch, formState } = useForm<Form>({ defaultValues: keptDraft() });
  const { data: file } = useVehicleQuery(chosen?.id ?? "", { skip: chosen === null });
  const leftOpen = chosen === null ? null : (file?.leftOpen ?? null);
  const { errors } = formState;
  useEffect(() => {
    const kept = watch((values) => sessionStorage.setItem(DRAFT_KEY, JSON.stringify(values)));
    return () => kept.unsubscribe();
  }, [watch]);

  const number = (value: string): string | true => largeNumberIn(value) !== undefined || messages.notANumber(value);
  const open = async (form: Form): Promise<void> => {
    setProblem(null);
    const typed = vehicleIn(form);
    if (chosen === null && !typed.name && !typed.make && !typed.plate) {
      setProblem(t.needs);
      return;
    }
    const mileage = typed.mileageKm;
    const base = { at: new Date().toISOString(), by };
    const complaint: NewEntry = {
      ...base,
      id: uuidv7(),
      kind: "complaint",
      body: {
        text: form.complaint.trim(),
        ...(form.when.trim() ? { when: form.when.trim() } : {}),
        ...(form.previous.trim() ? { previous: form.previous.trim() } : {}),
        ...(mileage === undefined ? {} : { mileageKm: mileage }),
      },
    };
    const facts = leftOpen !== null && along && onward ? { facts: { leftOpen } } : {};
    const known: NewEntry = { ...base, id: uuidv7(), kind: "conditions", body: { hints: [...hints], ...(passing ? { intermittent: true } : {}), ...facts } };
    const body: NewJob = {
      ...(chosen === null ? { vehicle: typed } : { vehicleId: chosen.id, ...(mileage === undefined ? {} : { vehicle: { mileageKm: mileage } }) }),
      circuits: chosen !== null && along ? chosen.circuits : [],
      entries: hints.length > 0 || passing || "facts" in facts ? [complaint, known] : [complaint],
    };
    const answer = await create(body);
    if ("error" in answer) {
      setProblem(reasonOf(answer.error) ?? messages.states.failed);
      return;
    }
    sessionStorage.removeItem(DRAFT_KEY);
    void navigate(`/jobs/${answer.data.id}`);
  };
  const jobs = file ? (file.jobs.length === 0 ? messages.complaint.noHistory : `${messages.figures.jobs}: ${file.jobs.length}.`) : "";
  return (
    <>
      <PageHead />
      <main id="content" className="mx-auto w-full max-w-4xl flex-1 px-4 py-5">
        <form onSubmit={(event) => void handleSubmit(open)(event)} className="grid gap-4">
          <h1 className="m-0 text-2xl font-bold">{t.title}</h1>
          <Block title={t.vehicle}>
            {chosen ? (
              <div className="grid gap-3">
                <div className="flex flex-wrap items-center gap-3">
                  <p className="m-0 flex-1">
                    <span className="text-lg font-bold">{vehicleName(chosen.details)}</span>{" "}
                    <span className="text-soft">{[vehicleLine(chosen.details), chosen.details.plate].filter(Boolean).join(" · ")}</span>
                    <span className="block text-sm text-soft">{t.chosen(jobs)}</span>
                  </p>
                  <Button onClick={() => setChosen(null)}>{t.another}</Button>
                </div>
                {chosen.circuits.length > 0 && (
                  <Chip on={along} onChange={setAlong}>
                    {t.take}: {t.known(chosen.circuits.length)}
                  </Chip>
                )}
                {leftOpen !== null && along && (
                  <Chip on={onward} onChange={setOnward}>
                    {t.leftOpen(leftOpen.job, leftOpenText(leftOpen, chosen.circuits))}
                  </Chip>
                )}
                <TextField label={t.mileage} inputMode="numeric" error={errors.mileage?.message} {...register("mileage", { validate: number })} />
              </div>
            ) : (
              <div className="grid gap-4 md:grid-cols-2">
                <Register onChoose={setChosen} />
                <fieldset className="m-0 grid grid-cols-2 gap-3 border-0 p-0">
                  <legend className="mb-1 text-sm text-soft">{t.newVehicle}</legend>
                  <div className="col-span-2">
                    <TextField label={t.name} {...register("name")} />
                  </div>
                  <TextField label={t.make} {...register("make")} />
                  <TextField label={t.model} {...register("model")} />
                  <TextField label={t.engine} {...register("engine")} />
                  <TextField label={t.year} inputMode="numeric" error={errors.year?.message} {...register("year", { validate: number })} />
                  <TextField label={t.plate} {...register("plate")} />
                  <TextField label={t.mileage} inputMode="numeric" error={errors.mileage?.message} {...register("mileage", { validate: number })} />
                </fieldset>
              </div>
            )}
          </Block>
          <Block title={messages.job.complaint}>
            <div className="grid gap-3">
              <TextArea
                label={t.complaint}
                error={errors.complaint?.message}
                {...register("complaint", { validate: (text) => text.trim() !== "" || messages.needed(t.complaint) })}
              />
              <div className="grid gap-3 md:grid-cols-2">
                <TextField label={t.when} {...register("when")} />
                <TextField label={t.previous} {...register("previous")} />
              </div>
              <fieldset className="m-0 flex flex-wrap gap-2 border-0 p-0">
                <legend className="mb-1 text-sm text-soft">{t.hints}</legend>
                {HINTS.map((hint) => (
                  <Chip key={hint} on={hints.includes(hint)} onChange={(on) => setHints(on ? [...hints, hint] : hints.filter((other) => other !== hint))}>
                    {t.hint[hint]}
                  </Chip>
                ))}
                <Chip on={passing} onChange={setPassing}>
                  {t.comesAndGoes}
                </Chip>
              </fieldset>
            </div>
          </Block>
          {problem !== null && (
            <p role="alert" className="m-0 rounded-lg bg-caution px-3 py-2">
              {problem}
            </p>
          )}
          <Button type="submit" weight="next" disabled={isLoading} className="min-h-12">
            {t.create}
          </Button>
        </form>
      </main>
    </>
  );
}
