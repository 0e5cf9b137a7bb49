import { readingRows, type Step, type StepCode } from "@fox-lamp/core";
import type { JobDetail, Stage, Wait } from "@fox-lamp/language";
import { format } from "date-fns";
import { ArrowRight, Download } from "lucide-react";
import Papa from "papaparse";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { reasonOf, useLazyJobFileQuery, useRemoveJobMutation, useVehicleQuery } from "../../../app/api";
import { useSession } from "../../../app/session";
import { namedCircuits } from "../../../circuit/names-of";
import { messages } from "../../../messages";
import { whenText } from "../../../ui/dates";
import { Block, Button, Chip, Select, TextArea, TextField } from "../../../ui/form";
import { useKept } from "../../../ui/kept";
import { saveAs } from "../../../ui/picture";
import { RemoveDialog } from "../../../ui/RemoveDialog";
import { stagePath } from "../../../ui/StageRail";
import { Label } from "../../../ui/states";
import { toast } from "../../../ui/toast";
import { vehicleLine, vehicleName } from "../../../ui/vehicle";
import { entryText } from "../shared/entry-text";
import { JobFrame, type Work } from "../shared/JobFrame";
import { Photos } from "../shared/Photos";
import { BatteryBlock } from "./BatteryBlock";
import { FactsBlock } from "./FactsBlock";
import { VehicleEdit } from "./VehicleEdit";

const t = messages.job;
const c = messages.complaint;

const MOST_RECORDED = 14;

/** The latest entries of a job: who did what, when. */
function History({ entries, circuits }: Pick<JobDetail, "entries" | "circuits">) {
  const named = namedCircuits(circuits);
  const [all, setAll] = useState(false);
  const shown = [...entries].reverse().slice(0, all ? undefined : MOST_RECORDED);
  return (
    <section aria-label={t.history}>
      <Label>{t.history}</Label>
      <ol className="mt-2 list-none p-0">
        {shown.map((entry) => (
          <li key={entry.id} className="grid grid-cols-[auto_1fr] gap-x-3 border-b sm:grid-cols-[7rem_6.5rem_1fr] border-line py-2 text-sm">
            <time dateTime={entry.at} className="readout whitespace-nowrap text-soft">
              {format(new Date(entry.at), "d MMM HH:mm")}
            </time>
            <span className="text-soft">{messages.kinds[entry.kind]}</span>
            <span className="col-span-full min-w-0 break-words sm:col-span-1">
              {entryText(entry, named)}{" "}
              <span className="text-soft">
                {entry.by}
                {entry.imported === true ? `, ${t.imported}` : ""}
              </span>
            </span>
          </li>
        ))}
      </ol>
      {entries.length > MOST_RECORDED && (
        <Button weight="quiet" onClick={() => setAll(!all)}>
          {all ? messages.yard.less : messages.yard.more(entries.length)}
        </Button>
      )}
    </section>
  );
}

/** The complaint in the customer's words; it can be set right at any time, what it was stays in the record. */
function Complaint({ job, state, enter }: Work) {
  const [text, setText] = useKept(`complaint ${job.id}`, state.complaint);
  const [when, setWhen] = useKept(`complaint-when ${job.id}`, state.when ?? "");
  const [previous, setPrevious] = useKept(`complaint-previous ${job.id}`, state.previous ?? "");
  const [editing, setEditing] = useState(text !== state.complaint || when !== (state.when ?? "") || previous !== (state.previous ?? ""));
  const leave = (): void => {
    setText(state.complaint);
    setWhen(state.when ?? "");
    setPrevious(state.previous ?? "");
    setEditing(false);
  };
  const save = (): void => {
    if (text.trim() === "") return;
    enter({
      kind: "complaint",
      body: { text: text.trim(), ...(when.trim() ? { when: when.trim() } : {}), ...(previous.trim() ? { previous: previous.trim() } : {}) },
    });
    setEditing(false);
  };
  return (
    <section>
      <Label as="p">
        {vehicleName(job.vehicle)} · {t.complaint}
      </Label>
      {editing ? (
        <div className="mt-2 grid gap-3">
          <TextArea label={messages.intake.complaint} value={text} onChange={(event) => setText(event.target.value)} />
          <TextField label={messages.intake.when} value={when} onChange={(event) => setWhen(event.target.value)} />
          <TextField label={messages.intake.previous} value={previous} onChange={(event) => setPrevious(event.target.value)} />
          <div className="flex gap-2">
            <Button weight="next" onClick={save}>
              {c.save}
            </Button>
            <Button onClick={leave}>{c.cancel}</Button>
          </div>
        </div>
      ) : (
        <>
          <h1 className="mb-0 mt-1 text-2xl font-bold leading-snug">{state.complaint}</h1>
          {state.when && (
            <p className="mb-0 mt-2 text-soft">
              {t.when}: {state.when}
            </p>
          )}
          {state.previous && (
            <p className="mb-0 mt-1 text-soft">
              {c.previous}: {state.previous}
            </p>
          )}
          <div className="mt-3 flex flex-wrap items-center gap-2">
            {state.confirmation === null ? (
              <>
                <span className="text-sm text-soft">{c.confirm}</span>
                <Button onClick={() => enter({ kind: "confirmation", body: { seen: true } })}>{c.seen}</Button>
                <Button onClick={() => enter({ kind: "confirmation", body: { seen: false } })}>{c.notSeen}</Button>
              </>
            ) : (
              <span className="text-sm">{state.confirmation.seen ? `✓ ${c.seenText}` : c.notSeenText}</span>
            )}
            <Button weight="quiet" onClick={() => setEditing(true)}>
              {c.edit}
            </Button>
          </div>
        </>
      )}
    </section>
  );
}

/** Where one goes on: each stage's page and what its button says. */
const GO: Readonly<Record<Stage, string>> = {
  complaint: t.go.codes,
  codes: t.go.codes,
  triage: t.go.triage,
  bench: t.openBench,
  repair: t.go.repair,
  check: t.go.check,
  closed: t.go.report,
};

/** The one thing to do next: on to the page of the job's stage. */
function GoOn({ job, state, enter }: Work) {
  const navigate = useNavigate();
  const goOn = (): void => {
    if (state.stage === "complaint") enter({ kind: "stage", body: { stage: "codes" } });
    void navigate(stagePath(job.id, state.stage === "complaint" ? "codes" : state.stage));
  };
  return (
    <Button weight="next" onClick={goOn} className="flex min-h-12 w-full items-center justify-center gap-2">
      {GO[state.stage]} <ArrowRight size={18} aria-hidden="true" />
    </Button>
  );
}

/** The order of work as it stands: what is done, what is asked for next. */
function OrderOfWork(work: Work) {
  const mark = (step: Step): string => (step.done ? "✓" : step.needed ? "○" : "·");
  const name = (code: StepCode): string => messages.steps[code];
  return (
    <Block title={c.order}>
      <ol className="m-0 list-none p-0 text-sm">
        {work.steps.map((step) => (
          <li key={step.code} className={`flex items-baseline gap-2 py-0.5 ${step.done ? "" : step.needed ? "font-bold" : "text-soft"}`}>
            <span aria-hidden="true" className={`readout w-4 ${step.done ? "text-calm" : ""}`}>
              {mark(step)}
            </span>
            {name(step.code)}
            <span className="sr-only">{step.done ? messages.stepState.done : step.needed ? messages.stepState.open : messages.stepState.advised}</span>
          </li>
        ))}
      </ol>
      <div className="mt-3 hidden lg:block">
        <GoOn {...work} />
      </div>
    </Block>
  );
}

/** Who works on it, and what it waits for. */
function Standing({ job, state, shop, enter }: Work) {
  const people = (shop?.people ?? []).filter(({ active }) => active);
  const assigned = state.assigned === null ? job.assignedTo : state.assigned.person === null ? null : state.assigned.name;
  const assign = (id: string): void => {
    const person = people.find((candidate) => candidate.id === id);
    enter({ kind: "assigned", body: { person: person?.id ?? null, name: person?.name ?? messages.yard.unassigned } });
  };
  return (
    <div className="grid grid-cols-2 gap-3">
      <Select
        label={c.assigned}
        value={people.find(({ name }) => name === assigned)?.id ?? ""}
        options={[["", messages.yard.unassigned], ...people.map(({ id, name }) => [id, name] as const)]}
        onChange={assign}
      />
      <Select<Wait | "none">
        label={c.waiting}
        value={state.waiting?.for ?? "none"}
        options={[
          ["none", c.waits.none],
          ["part", c.waits.part],
          ["customer", c.waits.customer],
        ]}
        onChange={(to) => enter({ kind: "waiting", body: { for: to === "none" ? null : to } })}
      />
      <div className="col-span-2">
        <Promised key={state.promised ?? "none"} state={state} enter={enter} />
      </div>
    </div>
  );
}

/** When the customer gets the vehicle: entered when the field is left, not with every figure of it. */
function Promised({ state, enter }: Pick<Work, "state" | "enter">) {
  const [text, setText] = useState(state.promised === null ? "" : format(new Date(state.promised), "yyyy-MM-dd'T'HH:mm"));
  const save = (): void => {
    const at = new Date(text);
    const said = Number.isNaN(at.getTime()) ? null : at.toISOString();
    if (said !== state.promised) enter({ kind: "promised", body: { at: said } });
  };
  return (
    <TextField
      label={c.promised}
      type="datetime-local"
      value={text}
      hint={state.waiting === null ? undefined : c.waitsSince(c.waits[state.waiting.for], whenText(state.waiting.since))}
      onChange={(event) => setText(event.target.value)}
      onBlur={save}
    />
  );
}

/** The vehicle as the register has it, who works on it, and what it waits for. */
function Register(work: Work) {
  const { job, state } = work;
  const [editing, setEditing] = useState(false);
  const mileage = state.mileageKm ?? job.vehicle.mileageKm;
  return (
    <Block
      title={c.register}
      aside={
        <Button weight="quiet" onClick={() => setEditing(true)}>
          {c.edit}
        </Button>
      }
    >
      <p className="m-0 font-bold">{vehicleName(job.vehicle)}</p>
      <p className="m-0 text-sm text-soft">
        {[vehicleLine(job.vehicle), job.vehicle.plate, mileage === undefined ? null : `${mileage.toLocaleString("en")} km`].filter(Boolean).join(" · ")}
      </p>
      <div className="mt-3">
        <Standing {...work} />
      </div>
      {editing && <VehicleEdit id={job.vehicleId} vehicle={job.vehicle} onDone={() => setEditing(false)} />}
    </Block>
  );
}

/** What this vehicle had before. */
function Before({ job }: Work) {
  const { data } = useVehicleQuery(job.vehicleId);
  const others = (data?.jobs ?? []).filter(({ id }) => id !== job.id);
  return (
    <Block title={c.history}>
      {others.length === 0 && <p className="m-0 text-sm text-soft">{c.noHistory}</p>}
      <ul className="m-0 list-none p-0 text-sm">
        {others.slice(0, 6).map(({ id, number, complaint, updatedAt, outcome }) => (
          <li key={id} className="border-t border-line py-1.5 first:border-t-0">
            <Link to={`/jobs/${id}`} className="text-ink">
              {number}. {complaint}
            </Link>
            <span className="block text-soft">
              {format(new Date(updatedAt), "d MMM yyyy")}
              {outcome ? `, ${messages.yard.outcome[outcome]}` : ""}
            </span>
          </li>
        ))}
      </ul>
    </Block>
  );
}

function Note({ job, enter }: Work) {
  const [text, setText] = useKept(`note ${job.id}`, "");
  const [customer, setCustomer] = useState(false);
  const add = (): void => {
    if (text.trim() === "") return;
    enter({ kind: "note", body: { text: text.trim(), ...(customer ? { customer } : {}) } });
    setText("");
    setCustomer(false);
  };
  return (
    <form
      className="flex flex-wrap items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        add();
      }}
    >
      <div className="min-w-0 flex-1">
        <TextField label={c.note} placeholder={c.notePlaceholder} value={text} onChange={(event) => setText(event.target.value)} />
      </div>
      <Button type="submit" disabled={text.trim() === ""}>
        {c.save}
      </Button>
      <div className="w-full">
        <Chip on={customer} onChange={setCustomer}>
          {c.noteForCustomer}
        </Chip>
      </div>
    </form>
  );
}

function Files({ job, state }: Work) {
  const [load] = useLazyJobFileQuery();
  const file = async (): Promise<void> => {
    const answer = await load(job.id);
    if (answer.data === undefined) {
      toast.error(reasonOf(answer.error) ?? messages.states.failed);
      return;
    }
    saveAs(new Blob([JSON.stringify(answer.data, null, 2)], { type: "application/json" }), `job-${job.number}.json`);
  };
  const csv = (): void => saveAs(new Blob([Papa.unparse(readingRows(state))], { type: "text/csv" }), `job-${job.number}-readings.csv`);
  return (
    <div className="flex flex-wrap gap-2">
      <Button onClick={() => void file()} className="flex items-center gap-2">
        <Download size={18} aria-hidden="true" /> {c.saveFile}
      </Button>
      {state.readings.length > 0 && (
        <Button onClick={csv} className="flex items-center gap-2">
          <Download size={18} aria-hidden="true" /> {c.readings}
        </Button>
      )}
    </div>
  );
}

/** A foreman may take a job out of the record for good. */
function Remove({ job }: Work) {
  const navigate = useNavigate();
  const me = useSession();
  const [open, setOpen] = useState(false);
  const [removeJob] = useRemoveJobMutation();
  if (me?.role !== "foreman") return null;
  const remove = async (reason: string): Promise<string | null> => {
    const answer = await removeJob({ job: job.id, reason });
    if ("error" in answer) return reasonOf(answer.error) ?? messages.states.failed;
    toast.success(messages.removal.jobGone);
    void navigate("/");
    return null;
  };
  return (
    <>
      <Button weight="quiet" onClick={() => setOpen(true)}>
        {messages.removal.job}
      </Button>
      <RemoveDialog open={open} onOpen={setOpen} title={messages.removal.jobTitle(job.number)} lead={messages.removal.jobLead} remove={remove} />
    </>
  );
}

/** A job at a glance: complaint, battery, vehicle, the order of work, and the record. */
export function JobPage() {
  return (
    <JobFrame here="complaint">
      {(work) => {
        const { job, state } = work;
        return (
          <div className="grid content-start gap-6 lg:grid-cols-[1fr_22rem]">
            <div className="min-w-0 space-y-5">
              <Complaint key={state.complaint} {...work} />
              <div className="lg:hidden">
                <GoOn {...work} />
              </div>
              <BatteryBlock key={state.battery?.entry ?? "none"} {...work} />
              <Photos {...work} />
              <Note {...work} />
              <History entries={job.entries} circuits={job.circuits} />
            </div>
            <aside className="space-y-4">
              <FactsBlock {...work} />
              <OrderOfWork {...work} />
              <Register {...work} />
              <Before {...work} />
              <Files {...work} />
              <Remove {...work} />
            </aside>
          </div>
        );
      }}
    </JobFrame>
  );
}
