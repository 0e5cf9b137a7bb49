import type { JobState } from "@fox-lamp/core";
import { useState } from "react";
import { useParams } from "react-router";
import { DeadEnd } from "../../app/DeadEnd";
import { JobHead } from "../../app/JobHead";
import { useJob } from "../../app/use-job";
import { messages } from "../../messages";
import { Block, Button, TextField } from "../../ui/form";
import { PlainPage } from "../../ui/states";
import { vehicleName } from "../../ui/vehicle";
import { Actions } from "./Actions";
import { Codes } from "./Codes";
import { Drawn } from "./Drawn";
import { FamilyBlock } from "./FamilyBlock";
import { Identify } from "./Identify";
import { Parameter } from "./Parameter";
import { Pins } from "./Pins";
import { type Job, type Sheet, useSheet } from "./use-sheet";

const t = messages.sheet;

/** A circuit put on the job's sheet: family, pins, sharing, specification; drawn as it is typed, kept with the vehicle. */
export function SheetPage() {
  const { id = "", circuit: edited } = useParams();
  const { job, state: jobState, missing, failed, retry } = useJob(id);
  if (missing) return <DeadEnd>{messages.states.noJob}</DeadEnd>;
  if (failed && !job) return <DeadEnd retry={retry}>{messages.states.failed}</DeadEnd>;
  if (!job) return <PlainPage>{messages.states.loading}</PlainPage>;
  return <SheetOf key={`${id} ${edited ?? ""}`} job={job} state={jobState} edited={edited} />;
}

function SheetOf({ job, state, edited }: { job: Job; state: JobState; edited: string | undefined }) {
  const sheet = useSheet(job, state, edited);
  const { draft, others, tried, setMeasured } = sheet;
  const [identifying, setIdentifying] = useState(false);
  const { family, circuit, set } = draft;
  const known = edited !== undefined;
  return (
    <>
      <JobHead job={job} stage={state.stage} here="triage" />
      <main id="content" className="mx-auto grid w-full max-w-6xl flex-1 content-start gap-5 px-4 py-5 lg:grid-cols-[25rem_1fr] lg:px-6">
        <h1 className="m-0 text-2xl font-bold lg:col-span-2">
          {t.title} · {vehicleName(job.vehicle)}
        </h1>
        <div className="space-y-4">
          {!known && <Starts sheet={sheet} />}
          <FamilyBlock state={draft} job={job} others={others} known={known} idProblem={tried || draft.draft.id !== "" ? draft.problems["id"] : undefined} />
          <Pins state={draft} onIdentify={() => setIdentifying(true)} />
        </div>
        <div className="min-w-0 space-y-4">
          <Drawn state={draft} tried={tried} />
          <Specification sheet={sheet} />
          <Codes draft={draft.draft} set={set} />
          <Actions sheet={sheet} known={known} />
        </div>
      </main>
      {identifying && family && (
        <Identify
          circuit={circuit ?? { id: "new", family: draft.draft.family }}
          open
          onOpen={setIdentifying}
          onFill={(cavities, readings) => {
            set({ cavities: { ...draft.draft.cavities, ...cavities } });
            setMeasured(readings);
          }}
        />
      )}
    </>
  );
}

/** Circuits to start from. */
function Starts({ sheet: { starts, draft } }: { sheet: Sheet }) {
  if (starts.length === 0) return null;
  return (
    <Block title={t.from}>
      <div className="flex flex-wrap gap-2">
        {starts.map(({ circuit: one, from }) => (
          <Button key={`${from} ${one.id}`} onClick={() => draft.load(one)}>
            {one.title ?? one.id} <span className="text-sm text-soft">{from}</span>
          </Button>
        ))}
      </div>
    </Block>
  );
}

/** What the sheet says of the part, and where it says so. */
function Specification({ sheet: { draft: state, curves } }: { sheet: Sheet }) {
  const { draft, fields, set } = state;
  return (
    <Block title={t.spec}>
      <div className="grid gap-3 sm:grid-cols-2">
        {fields.map((field) => (
          <Parameter key={`${draft.family} ${field.name}`} field={field} state={state} curves={curves} />
        ))}
        <TextField label={t.torque} placeholder="12 Nm" value={draft.torque} onChange={(event) => set({ torque: event.target.value })} />
        <TextField label={t.sealant} value={draft.sealant} onChange={(event) => set({ sealant: event.target.value })} />
        <TextField label={t.source} value={draft.source} onChange={(event) => set({ source: event.target.value })} />
      </div>
    </Block>
  );
}
