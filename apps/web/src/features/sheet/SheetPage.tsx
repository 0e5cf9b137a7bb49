import { FAMILY_NAMES, familyById, type JobState, viewsOf } from "@fox-lamp/core";
import { BadInput, type Circuit, circuitSchema, circuitsSchema, parseOrThrow, pinWord, type Reading } from "@fox-lamp/language";
import { useEffect, useMemo, useRef, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { reasonOf, useChangeVehicleMutation, useVehicleQuery } from "../../app/api";
import { CardLink } from "../../app/CardLink";
import { DeadEnd } from "../../app/DeadEnd";
import { JobHead } from "../../app/JobHead";
import { namedInTurn } from "../../app/reading-names";
import { useEnter, useJob } from "../../app/use-job";
import { CircuitDrawing, UNDIAGNOSED } from "../../circuit/drawing/CircuitDrawing";
import { messages } from "../../messages";
import { FilePick } from "../../ui/FilePick";
import { Block, Button, Field, Select, TextField } from "../../ui/form";
import { saveAs } from "../../ui/picture";
import { PlainPage } from "../../ui/states";
import { toast } from "../../ui/toast";
import { vehicleName } from "../../ui/vehicle";
import { Identify } from "./Identify";
import { Parameter } from "./Parameter";
import type { CurveField } from "./SheetCurve";
import { type DraftState, useDraft } from "./use-draft";

const t = messages.sheet;
const CODE_KINDS = ["low", "high", "performance", "no-activity", "circuit", "correlation"] as const;
const JOINS = ["module", "S1", "S2", "S3"] as const;

/** Cavity and colour of every pin. */
function Pins({ state, onIdentify }: { state: DraftState; onIdentify: () => void }) {
  const { draft, family, set, views } = state;
  const own = views?.at(-1);
  const pins = own ? own.pins.filter(({ role }) => role !== "car-ground").map(({ pin }) => pin) : (family?.pins ?? []);
  if (pins.length === 0) return null;
  return (
    <Block
      title={t.pins}
      aside={
        <Button weight="quiet" onClick={onIdentify}>
          {t.identify}
        </Button>
      }
    >
      <div className="grid grid-cols-[1fr_6rem_1fr] items-center gap-2">
        <span className="text-sm text-soft">{t.pin}</span>
        <span className="text-sm text-soft">{t.cavity}</span>
        <span className="text-sm text-soft">{t.colour}</span>
        {pins.map((pin) => (
          <PinRow key={pin} pin={pin} draft={draft} set={set} />
        ))}
      </div>
    </Block>
  );
}

const CELL = "min-h-11 w-full rounded-lg border border-edge bg-well px-3 text-ink";

function PinRow({ pin, draft, set }: { pin: string; draft: DraftState["draft"]; set: DraftState["set"] }) {
  return (
    <>
      <span>
        {pinWord(pin, true)} <span className="readout text-sm text-soft">{pin}</span>
      </span>
      <input
        aria-label={`${t.cavity}: ${pinWord(pin)}`}
        value={draft.cavities[pin] ?? ""}
        onChange={(event) => set({ cavities: { ...draft.cavities, [pin]: event.target.value } })}
        className={`readout ${CELL}`}
      />
      <input
        aria-label={`${t.colour}: ${pinWord(pin)}`}
        value={draft.colours[pin] ?? ""}
        onChange={(event) => set({ colours: { ...draft.colours, [pin]: event.target.value } })}
        className={CELL}
      />
    </>
  );
}

/** Circuits of a file: a job, a circuit, a list of them. @throws BadInput */
function circuitsIn(text: string, name: string): Circuit[] {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new BadInput({ code: "file:not-json", where: "", message: t.notJson(name) });
  }
  if (typeof value === "object" && value !== null && "circuits" in value) return parseOrThrow(circuitsSchema, value.circuits, "circuits");
  return Array.isArray(value) ? parseOrThrow(circuitsSchema, value) : [parseOrThrow(circuitSchema, value)];
}

/** A circuit put on the job's sheet: family, pins, sharing, specification; drawn as it is typed, kept with the vehicle. */
export function SheetPage() {
  const { id = "", circuit: edited } = useParams();
  const { job, state: jobState, missing, failed, retry } = useJob(id);
  if (missing) return <DeadEnd>{messages.states.noJob}</DeadEnd>;
  if (failed && !job) return <DeadEnd retry={retry}>{messages.states.failed}</DeadEnd>;
  if (!job) return <PlainPage>{messages.states.loading}</PlainPage>;
  return <Sheet key={`${id} ${edited ?? ""}`} job={job} state={jobState} edited={edited} />;
}

type Job = NonNullable<ReturnType<typeof useJob>["job"]>;

/** What a measurement at a cavity takes, minutes. */
const MINUTES_A_CAVITY = 0.5;

function Sheet({ job, state: { stage, readings: taken }, edited }: { job: Job; state: JobState; edited: string | undefined }) {
  const navigate = useNavigate();
  const enter = useEnter(job.id);
  const { data: vehicle } = useVehicleQuery(job.vehicleId);
  const [changeVehicle] = useChangeVehicleMutation();
  const others = useMemo(() => job.circuits.filter(({ id }) => id !== edited), [job.circuits, edited]);
  const state = useDraft(
    job.circuits.find(({ id }) => id === edited),
    others,
  );
  const { draft, family, fields, problems, problem, circuit, views, set } = state;
  const [identifying, setIdentifying] = useState(false);
  // What was measured to find the cavities is entered with the circuit it belongs to.
  const [measured, setMeasured] = useState<readonly Reading[]>([]);
  const [tried, setTried] = useState(false);
  const [fileProblem, setFileProblem] = useState<string | null>(null);
  const lastViews = useRef(views);
  useEffect(() => {
    if (views !== null) lastViews.current = views;
  }, [views]);
  const drawn = views ?? lastViews.current;
  const shown = drawn?.at(-1);
  const buses = others.filter(({ family: of }) => familyById(of)?.traits.kind === "reference");

  const put = async (circuits: readonly Circuit[]): Promise<void> => {
    enter(...circuits.map((one) => ({ kind: "circuit" as const, body: { circuit: one } })));
    const kept = (vehicle?.circuits ?? []).filter(({ id }) => !circuits.some((one) => one.id === id));
    const answer = await changeVehicle({ id: job.vehicleId, circuits: [...kept, ...circuits] });
    if ("error" in answer) toast.error(reasonOf(answer.error) ?? messages.states.failed);
    else toast.success(t.saved);
  };
  const save = async (): Promise<void> => {
    setTried(true);
    if (circuit === null) return;
    await put([circuit]);
    const named = namedInTurn(
      measured.map((reading) => ({ ...reading, circuit: circuit.id })),
      taken,
    );
    enter(...named.map((reading) => ({ kind: "reading" as const, body: { reading, minutes: MINUTES_A_CAVITY } })));
    void navigate(`/jobs/${job.id}/triage`);
  };
  const remove = (): void => {
    if (edited === undefined) return;
    // A circuit with readings stays: the sentence says what to do.
    if (enter({ kind: "circuit", body: { remove: edited } }).length > 0) void navigate(`/jobs/${job.id}/triage`);
  };
  const open = async (file: File): Promise<void> => {
    setFileProblem(null);
    try {
      const circuits = circuitsIn(await file.text(), file.name);
      viewsOf([...others.filter(({ id }) => !circuits.some((one) => one.id === id)), ...circuits]);
      const [only] = circuits;
      if (circuits.length === 1 && only) state.load(only);
      else {
        await put(circuits);
        void navigate(`/jobs/${job.id}/triage`);
      }
    } catch (error) {
      if (!(error instanceof BadInput)) throw error;
      setFileProblem(`${file.name}: ${error.message}`);
    }
  };
  const starts = [
    ...(vehicle?.circuits ?? []).map((one) => ({ circuit: one, from: t.fromVehicle })),
    ...(vehicle?.sisters ?? []).flatMap(({ details, circuits }) =>
      circuits.map((one) => ({ circuit: one, from: messages.intake.sister(vehicleName(details)) })),
    ),
  ].filter(({ circuit: one }) => !job.circuits.some(({ id }) => id === one.id));
  const curves: CurveField = {
    vehicle: job.vehicleId,
    family: draft.family,
    circuit,
    readings: taken.map(({ reading }) => reading),
    onSource: (source) => set({ source }),
    tolerance: draft.tolerance,
    toleranceProblem: problems["tolerance"],
    onTolerance: (tolerance) => set({ tolerance }),
  };
  const idProblem = problems["id"];
  return (
    <>
      <JobHead job={job} stage={stage} here="triage" />
      <main id="content" className="mx-auto grid w-full max-w-6xl flex-1 content-start gap-5 px-4 py-5 lg:grid-cols-[25rem_1fr] lg:px-6">
        <h1 className="m-0 text-2xl font-bold lg:col-span-2">
          {t.title} · {vehicleName(job.vehicle)}
        </h1>
        <div className="space-y-4">
          {starts.length > 0 && edited === undefined && (
            <Block title={t.from}>
              <div className="flex flex-wrap gap-2">
                {starts.map(({ circuit: one, from }) => (
                  <Button key={`${from} ${one.id}`} onClick={() => state.load(one)}>
                    {one.title ?? one.id} <span className="text-sm text-soft">{from}</span>
                  </Button>
                ))}
              </div>
            </Block>
          )}
          <Block title={t.family}>
            <div className="grid gap-3">
              <Select
                label={t.family}
                value={draft.family}
                hint={family?.summary}
                options={FAMILY_NAMES.map(({ id, title }) => [id, title] as const)}
                onChange={(next) => set({ family: next, parameters: {}, tolerance: "" })}
              />
              <Link to={`/shelf?vehicle=${job.vehicleId}`} className="inline-flex min-h-11 items-center text-sm text-soft underline underline-offset-4">
                {messages.specs.ofVehicle}
              </Link>
              <CardLink card={`family-${draft.family}`} words={messages.cards.aboutFamily} job={job.id} circuit={draft.id} />
              <div className="grid grid-cols-[1fr_8rem] gap-3">
                <TextField label={t.name} value={draft.title} onChange={(event) => set({ title: event.target.value })} />
                <TextField
                  label={t.id}
                  value={draft.id}
                  placeholder="ect"
                  autoCapitalize="none"
                  readOnly={edited !== undefined}
                  onChange={(event) => set({ id: event.target.value })}
                  error={tried || draft.id !== "" ? idProblem : undefined}
                  className="readout"
                />
              </div>
              {family?.referenceParameter !== undefined && buses.length > 0 && (
                <div className="grid grid-cols-[1fr_10rem] gap-3">
                  <Select
                    label={t.shared}
                    value={draft.bus}
                    options={[["", t.sharedNone], ...buses.map(({ id, title }) => [id, title ?? id] as const)]}
                    onChange={(bus) => set({ bus })}
                  />
                  {draft.bus !== "" && (
                    <Select
                      label={t.join}
                      value={draft.join}
                      options={JOINS.map((join) => [join, join === "module" ? t.joinModule : join] as const)}
                      onChange={(join) => set({ join })}
                    />
                  )}
                </div>
              )}
              <div className="grid grid-cols-2 gap-3">
                <TextField
                  label={`${t.access} ${t.sensor}`}
                  inputMode="decimal"
                  value={draft.sensorMinutes}
                  onChange={(event) => set({ sensorMinutes: event.target.value })}
                  className="readout"
                />
                <TextField
                  label={`${t.access} ${t.module}`}
                  inputMode="decimal"
                  value={draft.moduleMinutes}
                  onChange={(event) => set({ moduleMinutes: event.target.value })}
                  className="readout"
                />
              </div>
              <TextField
                label={t.inline}
                placeholder="C1 C2"
                value={draft.inline}
                onChange={(event) => set({ inline: event.target.value })}
                className="readout"
              />
            </div>
          </Block>
          <Pins state={state} onIdentify={() => setIdentifying(true)} />
        </div>
        <div className="min-w-0 space-y-4">
          <Block title={t.drawn}>
            {drawn && shown && (
              <CircuitDrawing
                circuit={shown}
                circuits={drawn}
                diagnosis={UNDIAGNOSED}
                test={null}
                healthy={undefined}
                measured={new Map()}
                selected={null}
                onSelect={() => undefined}
              />
            )}
            {problem !== null && (tried || idProblem === undefined) && (
              <p role="alert" className="m-0 rounded-lg bg-caution px-3 py-2 text-sm">
                {problem}
              </p>
            )}
          </Block>
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
          <Block title={t.codes}>
            <div className="grid grid-cols-2 gap-3 sm:grid-cols-3">
              {CODE_KINDS.map((kind) => (
                <Field key={kind} label={t.codeKind[kind]}>
                  {(wired) => (
                    <input
                      {...wired}
                      value={draft.codes[kind] ?? ""}
                      onChange={(event) => set({ codes: { ...draft.codes, [kind]: event.target.value.toUpperCase() } })}
                      className={`readout ${CELL}`}
                    />
                  )}
                </Field>
              ))}
            </div>
          </Block>
          {fileProblem !== null && (
            <p role="alert" className="m-0 rounded-lg bg-caution px-3 py-2">
              {fileProblem}
            </p>
          )}
          <div className="flex flex-wrap gap-2">
            <Button weight="next" onClick={() => void save()} className="min-h-12 flex-1">
              {t.save}
            </Button>
            <FilePick label={t.import} accept=".json,application/json" onFile={(file) => void open(file)}>
              {t.import}
            </FilePick>
            <Button
              disabled={circuit === null}
              onClick={() =>
                circuit && saveAs(new Blob([JSON.stringify({ circuits: [circuit] }, null, 2)], { type: "application/json" }), `circuit-${circuit.id}.json`)
              }
            >
              {t.export}
            </Button>
            {edited !== undefined && (
              <Button weight="quiet" onClick={remove}>
                {t.remove}
              </Button>
            )}
          </div>
        </div>
      </main>
      {identifying && family && (
        <Identify
          circuit={circuit ?? { id: "new", family: draft.family }}
          open
          onOpen={setIdentifying}
          onFill={(cavities, readings) => {
            set({ cavities: { ...draft.cavities, ...cavities } });
            setMeasured(readings);
          }}
        />
      )}
    </>
  );
}
