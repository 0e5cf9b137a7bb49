import type { RegisteredVehicle } from "@fox-lamp/language";
import { useEffect, useState } from "react";
import { useForm } from "react-hook-form";
import { useNavigate } from "react-router";
import { v7 as uuidv7 } from "uuid";
import { reasonOf, useCreateJobMutation, useVehicleQuery } from "../../app/api";
import { usePerson } from "../../app/session";
import { PageHead } from "../../app/shell";
import { messages } from "../../messages";
import { Button } from "../../ui/form";
import { ComplaintBlock } from "./ComplaintBlock";
import { type Form, keepDraft, keptDraft, newJobOf, vehicleIn } from "./form";
import { VehicleBlock } from "./VehicleBlock";

const t = messages.intake;

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
    const kept = watch((values) => keepDraft(values));
    return () => kept.unsubscribe();
  }, [watch]);

  const open = async (form: Form): Promise<void> => {
    setProblem(null);
    const { name, make, plate } = vehicleIn(form);
    if (chosen === null && !name && !make && !plate) {
      setProblem(t.needs);
      return;
    }
    const choices = { chosen, hints, passing, along, leftOpen: onward ? leftOpen : null };
    const answer = await create(newJobOf(form, choices, { at: new Date().toISOString(), by }, uuidv7));
    if ("error" in answer) {
      setProblem(reasonOf(answer.error) ?? messages.states.failed);
      return;
    }
    keepDraft(null);
    void navigate(`/jobs/${answer.data.id}`);
  };
  const jobs = file ? (file.jobs.length === 0 ? messages.complaint.noHistory : `${messages.figures.jobs}: ${file.jobs.length}.`) : "";
  return (
    <>
      <PageHead />
      <main id="content" className="mx-auto w-full max-w-4xl flex-1 px-4 py-5">
        <form onSubmit={(event) => void handleSubmit(open)(event)} className="grid gap-4">
          <h1 className="m-0 text-2xl font-bold">{t.title}</h1>
          <VehicleBlock {...{ register, errors, chosen, jobs, leftOpen, along, onward }} onChoose={setChosen} onAlong={setAlong} onOnward={setOnward} />
          <ComplaintBlock {...{ register, hints, passing }} problem={errors.complaint?.message} onHints={setHints} onPassing={setPassing} />
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
