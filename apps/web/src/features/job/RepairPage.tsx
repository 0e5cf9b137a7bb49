import {
  circuitRules,
  condemnedUnits,
  diagnosedPart,
  familyById,
  formatPercent,
  formatWindow,
  specifiedOhms,
  type Task,
  tasksOf,
  unitKind,
} from "@fox-lamp/core";
import { type Circuit, circuitOfUnit, type EntryOf, parseShorthand } from "@fox-lamp/language";
import { ArrowRight } from "lucide-react";
import { useMemo, useState } from "react";
import { Link, useNavigate } from "react-router";
import { useAnalysis } from "../../circuit/use-analysis";
import { titleOf } from "../../circuit/wording";
import { messages } from "../../messages";
import { Block, Button, Chip, numberIn, Select, TextArea, TextField } from "../../ui/form";
import { JobFrame, type Work } from "./JobFrame";
import { Photos } from "./Photos";

const t = messages.repair;

type Located = EntryOf<"located">["body"];
const WAYS = ["look", "wiggle", "measured", "found"] as const;
const REMEDIES = ["wire", "loom", "contact", "part", "clean", "module"] as const;

/** Titles of units as the job's circuits call them. */
function namerOf(circuits: readonly Circuit[]): (unit: string) => string {
  const views = circuits.map(({ id, title, family }) => ({ id, title: title ?? id, part: familyById(family)?.part ?? "Sensor" }));
  return (unit) => titleOf(unit, views);
}

/** A part may be fitted before proof, but not by accident: the odds are shown, and kept. */
function Gate({ work, onOpen }: { work: Work; onOpen: () => void }) {
  const { job, state, shop, enter } = work;
  const navigate = useNavigate();
  const diagnosed = useMemo(() => (job.circuits.length === 0 ? null : diagnosedPart(job, state, shop?.settings ?? null)), [job, state, shop]);
  const { analysis } = useAnalysis(diagnosed);
  const { stake, units } = analysis?.diagnosis ?? { stake: null, units: [] };
  const first = units.find(({ unit }) => unit !== "none");
  const unit = stake?.unit ?? first?.unit ?? null;
  const probability = stake ? 1 - stake.wrong : (first?.probability ?? 0);
  const fit = (): void => {
    if (unit === null) return;
    enter({ kind: "decision", body: { decision: "override", unit, probability, ...(stake ? { lossMinutes: stake.lossMinutes } : {}) } });
    onOpen();
  };
  return (
    <Block title={t.gateTitle}>
      <p className="m-0 font-bold">{t.unproven}</p>
      {unit !== null && <p className="mb-0 mt-2">{t.gateLead((stake?.title ?? namerOf(job.circuits)(unit)).toLowerCase(), formatPercent(probability))}</p>}
      {stake && <p className="mb-0 mt-2 text-soft">{stake.sentence}</p>}
      <p className="mb-3 mt-2 text-sm text-soft">{t.gateRisk}</p>
      <div className="flex flex-wrap gap-2">
        <Button weight="next" onClick={() => void navigate(`/jobs/${job.id}/bench`)}>
          {t.gateBack}
        </Button>
        <Button disabled={unit === null} onClick={fit} className="border-ember">
          {t.gateGo}
        </Button>
      </div>
    </Block>
  );
}

/** Where along the wire it is: what was looked at, moved and measured, until the place is found. */
function Locate({ work, units }: { work: Work; units: readonly string[] }) {
  const { job, state, shop, enter } = work;
  const nameOf = namerOf(job.circuits);
  const [way, setWay] = useState<Located["way"]>("look");
  const [place, setPlace] = useState("");
  const [text, setText] = useState("");
  const [unit, setUnit] = useState(units[0] ?? "");
  const [wires, setWires] = useState("1");
  const [remedy, setRemedy] = useState<NonNullable<Located["remedy"]>>(unitKind(unit) === "contact" ? "contact" : "wire");
  const [problem, setProblem] = useState<string | null>(null);
  const from = shop?.settings.policy.changeLoomFrom ?? 4;
  const count = numberIn(wires);
  const found = way === "found";
  const add = (): void => {
    if (place.trim() === "") {
      setProblem(messages.needed(t.place));
      return;
    }
    if (found && (count === undefined || count === null || !Number.isInteger(count) || count < 0)) {
      setProblem(messages.notANumber(wires));
      return;
    }
    setProblem(null);
    enter({
      kind: "located",
      body: { unit, way, place: place.trim(), ...(text.trim() ? { text: text.trim() } : {}), ...(found ? { wires: count as number, remedy } : {}) },
    });
    setText("");
    if (!found) setPlace("");
  };
  return (
    <Block title={t.locate}>
      <p className="mt-0 text-sm text-soft">{t.locateLead}</p>
      <ol className="m-0 mb-3 list-none p-0">
        {state.located.map(({ entry, way: how, place: where, text: says, remedy: with_, wires: damaged, by }) => (
          <li key={entry} className={`border-t border-line py-2 first:border-t-0 ${how === "found" ? "font-bold" : ""}`}>
            {t.way[how]}: {where}
            {says ? `, ${says}` : ""}
            {with_ ? `. ${t.remedies[with_]}` : ""}
            {damaged !== undefined && damaged >= from && with_ !== "loom" ? (
              <span className="block text-sm text-ember">{t.loomRule(damaged, from)}</span>
            ) : null}
            <span className="text-sm font-normal text-soft"> {by}</span>
          </li>
        ))}
      </ol>
      <div className="grid gap-3 sm:grid-cols-2">
        <Select label={t.how} value={way} options={WAYS.map((name) => [name, t.way[name]] as const)} onChange={setWay} />
        {units.length > 1 && <Select label={t.unit} value={unit} options={units.map((name) => [name, nameOf(name)] as const)} onChange={setUnit} />}
        <TextField label={t.place} value={place} onChange={(event) => setPlace(event.target.value)} error={problem ?? undefined} />
        <TextField label={t.what} value={text} onChange={(event) => setText(event.target.value)} />
        {found && (
          <>
            <TextField
              label={t.wires}
              inputMode="numeric"
              value={wires}
              onChange={(event) => setWires(event.target.value)}
              hint={typeof count === "number" && count >= from ? t.loomRule(count, from) : undefined}
            />
            <Select label={t.remedy} value={remedy} options={REMEDIES.map((name) => [name, t.remedies[name]] as const)} onChange={setRemedy} />
          </>
        )}
      </div>
      <Button weight={state.located.some(({ way: how }) => how === "found") ? "other" : "next"} onClick={add} className="mt-3">
        {t.add}
      </Button>
    </Block>
  );
}

/** A resistance as typed: shorthand with k and M, or OL; null for nothing typed, undefined for what is none. */
function ohmsIn(text: string): number | "OL" | null | undefined {
  if (text.trim() === "") return null;
  const read = parseShorthand(text);
  return read.ok && (typeof read.value === "number" || read.value === "OL") ? read.value : undefined;
}

/** What was done; a replaced part is compared with the old one and the specification first. */
function Repair({ work, units }: { work: Work; units: readonly string[] }) {
  const { job, state, shop, enter } = work;
  const nameOf = namerOf(job.circuits);
  const located = state.located.filter(({ way }) => way === "found").at(-1);
  const unit = located?.unit ?? units[0] ?? "";
  const kind = unitKind(unit);
  const replaced = kind === "part" || kind === "module" || kind === "battery" || located?.remedy === "part" || located?.remedy === "module";
  const [text, setText] = useState("");
  const [number, setNumber] = useState("");
  const [source, setSource] = useState<"original" | "other">("original");
  const [same, setSame] = useState(true);
  const [oldOhms, setOldOhms] = useState("");
  const [newOhms, setNewOhms] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const circuit = job.circuits.find(({ id }) => id === circuitOfUnit(unit));
  const window = circuit === undefined ? null : specifiedOhms(circuit, unit);
  const [before, after] = [ohmsIn(oldOhms), ohmsIn(newOhms)];
  const outside = window !== null && after != null && (after === "OL" || after < window[0] || after > window[1]);
  const hint = window === null || after == null ? undefined : (outside ? t.outside : t.inside)(formatWindow(window[0], window[1], "ohm"));
  const save = (): void => {
    if (text.trim() === "") {
      setProblem(messages.needed(t.inWords));
      return;
    }
    if (before === undefined || after === undefined) return;
    setProblem(null);
    const part = {
      ...(number.trim() ? { number: number.trim() } : {}),
      source,
      shape: same,
      ...(before === null ? {} : { oldOhms: before }),
      ...(after === null ? {} : { newOhms: after }),
    };
    enter({ kind: "repair", body: { text: text.trim(), unit, ...(replaced ? { part } : {}) } });
    if (replaced && same && !outside && after !== null) enter({ kind: "task", body: { task: `compare-part ${unit}`, done: true, text: hint ?? "" } });
    setText("");
  };
  const wrongOhms = (text_: string): string | undefined => (ohmsIn(text_) === undefined ? messages.notANumber(text_) : undefined);
  return (
    <Block title={t.done}>
      {state.repairs.map(({ entry, text: says, part, by }) => (
        <p key={entry} className="m-0 border-b border-line pb-2">
          ✓ {says}
          {part?.number ? <span className="readout"> {part.number}</span> : null}
          <span className="text-sm text-soft"> {by}</span>
        </p>
      ))}
      {replaced && (
        <fieldset className="m-0 mb-3 mt-2 grid gap-3 border-0 p-0 sm:grid-cols-2">
          <legend className="mb-2 font-bold">
            {t.part}: {nameOf(unit)}
          </legend>
          <TextField label={t.partNumber} value={number} onChange={(event) => setNumber(event.target.value)} />
          <Select
            label={t.source}
            value={source}
            options={[
              ["original", t.sources.original],
              ["other", t.sources.other],
            ]}
            onChange={setSource}
            hint={source === "other" && shop?.settings.policy.part === "original" ? t.originalOnly : undefined}
          />
          <TextField label={t.oldOhms} value={oldOhms} onChange={(event) => setOldOhms(event.target.value)} error={wrongOhms(oldOhms)} className="readout" />
          <TextField
            label={t.newOhms}
            value={newOhms}
            onChange={(event) => setNewOhms(event.target.value)}
            error={wrongOhms(newOhms) ?? (outside ? hint : undefined)}
            hint={hint}
            className="readout"
          />
          <div className="sm:col-span-2">
            <Chip on={same} onChange={setSame}>
              {t.shape}
            </Chip>
            {!same && (
              <p role="alert" className="mb-0 mt-1 text-sm text-ember">
                {t.differs}
              </p>
            )}
          </div>
        </fieldset>
      )}
      <TextArea label={t.inWords} value={text} onChange={(event) => setText(event.target.value)} error={problem ?? undefined} />
      <Button weight={state.repairs.length > 0 ? "other" : "next"} onClick={save} className="mt-3">
        {t.save}
      </Button>
    </Block>
  );
}

function TaskRow({ task, work }: { task: Task; work: Work }) {
  const [text, setText] = useState(task.text);
  const set = (done: boolean): void => void work.enter({ kind: "task", body: { task: task.id, done, ...(text.trim() ? { text: text.trim() } : {}) } });
  const circuit = work.job.circuits.find(({ id }) => task.about.startsWith(`${id}/`));
  const given = ["torque", "sealant", "source"].flatMap((name) => (typeof circuit?.[name] === "string" ? [String(circuit[name])] : []));
  const noted = task.kind === "torque" || task.kind === "contamination";
  return (
    <li className="border-t border-line py-2 first:border-t-0">
      <label className="flex min-h-11 cursor-pointer items-center gap-3">
        <input type="checkbox" checked={task.done} onChange={(event) => set(event.target.checked)} className="size-5 shrink-0 accent-[var(--lamp)]" />
        <span className={task.done ? "text-soft" : ""}>
          {messages.tasks[task.kind]}
          {task.kind === "torque" && <span className="block text-sm text-soft">{given.length > 0 ? t.fromSheet(given.join(", ")) : t.notOnSheet}</span>}
          {(task.kind === "seal" || task.kind === "plug-in") && <span className="block text-sm text-soft">{task.about}</span>}
        </span>
      </label>
      {noted && (
        <input
          aria-label={`${t.taskText}: ${messages.tasks[task.kind]}`}
          placeholder={t.taskText}
          value={text}
          onChange={(event) => setText(event.target.value)}
          onBlur={() => task.done && text.trim() !== task.text && set(true)}
          className="ml-8 min-h-11 w-[calc(100%-2rem)] rounded-lg border border-line bg-well px-3 text-ink placeholder:text-soft"
        />
      )}
    </li>
  );
}

/** Locate, repair, and what must be done before the check. */
export function RepairPage() {
  const navigate = useNavigate();
  return (
    <JobFrame here="repair">
      {(work) => {
        const { job, state, shop, enter } = work;
        const nameOf = namerOf(job.circuits);
        const decided = state.decisions.length > 0;
        const last = state.decisions.filter(({ unit }) => typeof unit === "string").at(-1);
        const units = condemnedUnits({ decisions: state.decisions, located: [] });
        const tasks = tasksOf(job.circuits, state, shop?.settings ?? null, circuitRules.cleanable);
        const open = tasks.filter(({ done }) => !done).length;
        const along = units.some((unit) => ["wire", "contact", "ground"].includes(unitKind(unit)));
        const toCheck = (): void => {
          if (state.stage !== "check") enter({ kind: "stage", body: { stage: "check" } });
          void navigate(`/jobs/${job.id}/check`);
        };
        return (
          <div className="grid gap-5 lg:grid-cols-[1fr_24rem]">
            <div className="min-w-0 space-y-4">
              <h1 className="text-2xl font-bold">{t.title}</h1>
              {!decided && <Gate work={work} onOpen={() => undefined} />}
              {decided && (
                <Block title={t.condemned}>
                  <p className="m-0 text-lg font-bold">{units.length === 0 ? messages.bench.nothingWrong : units.map(nameOf).join(" or ")}</p>
                  <p className="m-0 text-sm text-soft">
                    {last?.decision === "override" ? messages.bench.overridden : null}
                    {last?.probability === undefined ? null : <span className="readout"> {formatPercent(last.probability)}</span>}
                  </p>
                  <Link to={`/jobs/${job.id}/proof`} className="text-sm text-ink underline decoration-lamp underline-offset-4">
                    {messages.bench.proofPage}
                  </Link>
                </Block>
              )}
              {decided && along && <Locate work={work} units={units} />}
              {decided && units.length > 0 && <Repair key={state.located.at(-1)?.entry ?? "none"} work={work} units={units} />}
            </div>
            <div className="space-y-4">
              <Block title={t.tasks}>
                {tasks.length === 0 && <p className="m-0 text-soft">{t.noTasks}</p>}
                <ul className="m-0 list-none p-0">
                  {tasks.map((task) => (
                    <TaskRow key={task.id} task={task} work={work} />
                  ))}
                </ul>
                {decided && (
                  <Button
                    weight="next"
                    disabled={open > 0 || (units.length > 0 && state.repairs.length === 0)}
                    onClick={toCheck}
                    className="mt-3 flex w-full items-center justify-center gap-2"
                  >
                    {t.toCheck} <ArrowRight size={18} aria-hidden="true" />
                  </Button>
                )}
                {open > 0 && <p className="mb-0 mt-2 text-sm text-soft">{t.openTasks(open)}</p>}
              </Block>
              <Photos {...work} />
            </div>
          </div>
        );
      }}
    </JobFrame>
  );
}
