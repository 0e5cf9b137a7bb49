import {
  analyseCapture,
  assertChannels,
  buildModel,
  captureCsv,
  checkSpecs,
  diagnoseJob,
  FAMILIES,
  familyById,
  HISTORIES,
  listFaults,
  measureFile,
  movesOf,
  netlistOf,
  planJob,
  proofOf,
  readCaptureCsv,
  runTrial,
  Session,
  STRATEGIES,
  traceFile,
  triageJob,
  WORLDS,
  whyNot,
} from "@fox-lamp/core";
import {
  BadInput,
  captureFileSchema,
  circuitSchema,
  circuitsSchema,
  jobSchema,
  jsonSchemaOf,
  measureFileSchema,
  SCHEMA_NAMES,
  specFileSchema,
  traceFileSchema,
} from "@fox-lamp/language";
import { z } from "zod";
import { checked, type Input, numberOption, onlyFile, options, readJson } from "./input";

interface Command {
  readonly name: string;
  readonly usage: string;
  /** Text for standard output. @throws BadInput */
  readonly run: (words: readonly string[], input: Input) => string | Promise<string>;
}

function json(value: unknown): string {
  return `${JSON.stringify(value, null, 2)}\n`;
}

function families(words: readonly string[]): string {
  if (words.length > 0)
    throw new BadInput({ code: "argument:extra", where: "", message: `"${words[0]}" is one argument too many; expected fox-lamp families` });
  return json(
    FAMILIES.map(({ id, title, summary, pins, parameters }) => ({
      id,
      title,
      summary,
      pins,
      parameters: z.toJSONSchema(parameters, { io: "input", unrepresentable: "any" }),
    })),
  );
}

function schema(words: readonly string[]): string {
  const name = onlyFile(words, "schema NAME");
  const found = jsonSchemaOf(name);
  if (found === null)
    throw new BadInput({ code: "schema:unknown", where: "", message: `"${name}" is not a schema; expected one of ${SCHEMA_NAMES.join(", ")}` });
  return json(found);
}

/** Circuits of a file: a job, a measure file, a list of circuits, or one circuit. */
function circuitsOf(value: unknown): z.output<typeof circuitsSchema> {
  if (Array.isArray(value)) return checked(circuitsSchema, value);
  if (typeof value === "object" && value !== null && "family" in value) return [checked(circuitSchema, value)];
  return checked(z.looseObject({ circuits: circuitsSchema }), value).circuits;
}

function faults(words: readonly string[], input: Input): string {
  return json(listFaults(circuitsOf(readJson(onlyFile(words, "faults FILE"), input))));
}

function measure(words: readonly string[], input: Input): string {
  return json({ measurements: measureFile(checked(measureFileSchema, readJson(onlyFile(words, "measure FILE"), input))) });
}

function netlist(words: readonly string[], input: Input): string {
  return netlistOf(checked(measureFileSchema, readJson(onlyFile(words, "netlist FILE"), input)));
}

function diagnose(words: readonly string[], input: Input): string {
  const job = checked(jobSchema, readJson(onlyFile(words, "diagnose FILE"), input));
  const session = new Session();
  return json({ ...diagnoseJob(job, session), plan: planJob(job, session) });
}

function triage(words: readonly string[], input: Input): string {
  return json(triageJob(checked(jobSchema, readJson(onlyFile(words, "triage FILE"), input))));
}

const EXPLAIN_USAGE = "explain FILE [--unit CIRCUIT/UNIT]";

/** Moves and proof of a job; or why one unit is not the culprit. */
function explain(words: readonly string[], input: Input): string {
  const [file = "", ...rest] = words;
  const { unit } = options(rest, ["unit"], EXPLAIN_USAGE);
  const job = checked(jobSchema, readJson(onlyFile([file], EXPLAIN_USAGE), input));
  const session = new Session();
  if (unit === undefined) return json({ moves: movesOf(job, session), proof: proofOf(job, session) });
  const { units } = diagnoseJob(job, session);
  if (!units.some((known) => known.unit === unit)) {
    throw new BadInput({
      code: "explain:unit",
      where: "--unit",
      message: `"${unit}" is not a unit of this job; expected such as ${units[0]?.unit ?? "ect/sensor"}`,
    });
  }
  return json(whyNot(job, unit, session));
}

const CAPTURE_USAGE = "capture CSV --circuit FILE [--known FILE]";

/** The analysis of a capture: channels, what stands out, cam against crank. */
function capture(words: readonly string[], input: Input): string {
  const [csv = "", ...rest] = words;
  const given = options(rest, ["circuit", "known"], CAPTURE_USAGE);
  onlyFile(csv === "" || csv.startsWith("--") ? [] : [csv], CAPTURE_USAGE);
  if (given.circuit === undefined)
    throw new BadInput({ code: "argument:missing", where: "--circuit", message: `is missing; expected fox-lamp ${CAPTURE_USAGE}` });
  const circuits = circuitsOf(readJson(given.circuit, input));
  const [first] = buildModel(circuits).circuits;
  if (first === undefined || circuits.length > 1)
    throw new BadInput({ code: "capture:circuits", where: "--circuit", message: `holds ${circuits.length} circuits; expected one` });
  const known = given.known === undefined ? undefined : checked(captureFileSchema, readJson(given.known, input));
  const { capture: read, notes } = readCaptureCsv(input.bytes(csv));
  assertChannels(
    first,
    read.channels.map(({ name }) => name),
  );
  for (const note of notes) input.note(note);
  return json(analyseCapture(read, { circuitOf: () => first, known }).file);
}

/** A simulated capture as CSV. */
function trace(words: readonly string[], input: Input): string {
  const file = checked(traceFileSchema, readJson(onlyFile(words, "trace FILE"), input));
  return [...captureCsv(traceFile(file), [`fox-lamp trace, seed ${file.seed}`])].join("");
}

/** What cannot be and what does not agree among specifications and curves. */
function checkSpec(words: readonly string[], input: Input): string {
  return json(checkSpecs(checked(specFileSchema, readJson(onlyFile(words, "check-spec FILE"), input))));
}

const SHARES = ["blunders", "doubles", "intermittents", "cures", "unstated"] as const;
const TRIAL_USAGE = `trial --jobs N --seed S [--family ID] [--strategy ${STRATEGIES.join("|")}] [--world ${WORLDS.join("|")}] [--history ${HISTORIES.join("|")}] ${SHARES.map((name) => `[--${name} P]`).join(" ")}`;

function trial(words: readonly string[]): string {
  const given = options(words, ["jobs", "seed", "family", "strategy", "world", "history", ...SHARES], TRIAL_USAGE);
  const strategy = STRATEGIES.find((name) => name === (given.strategy ?? "advice"));
  if (strategy === undefined) {
    throw new BadInput({
      code: "trial:strategy",
      where: "--strategy",
      message: `"${given.strategy}" is no strategy; expected one of ${STRATEGIES.join(", ")}`,
    });
  }
  const world = WORLDS.find((name) => name === (given.world ?? "own"));
  if (world === undefined)
    throw new BadInput({ code: "trial:world", where: "--world", message: `"${given.world}" is no world; expected one of ${WORLDS.join(", ")}` });
  const history = HISTORIES.find((name) => name === given.history);
  if (given.history !== undefined && history === undefined)
    throw new BadInput({ code: "trial:history", where: "--history", message: `"${given.history}" is no history; expected one of ${HISTORIES.join(", ")}` });
  if (given.family !== undefined && familyById(given.family) === null) {
    throw new BadInput({
      code: "trial:family",
      where: "--family",
      message: `"${given.family}" is not a family; expected one of ${FAMILIES.map(({ id }) => id).join(", ")}`,
    });
  }
  return json(
    runTrial({
      jobs: numberOption("jobs", given.jobs, null, 1, 1e6, true),
      seed: numberOption("seed", given.seed, null, 0, 2 ** 31, true),
      families: given.family === undefined ? [] : [given.family],
      strategy,
      world,
      history,
      blunders: numberOption("blunders", given.blunders, 0, 0, 0.5, false),
      doubles: numberOption("doubles", given.doubles, 0, 0, 1, false),
      intermittents: numberOption("intermittents", given.intermittents, 0, 0, 1, false),
      cures: numberOption("cures", given.cures, 0, 0, 1, false),
      unstated: numberOption("unstated", given.unstated, 0, 0, 1, false),
      clock: () => performance.now(),
    }),
  );
}

export const COMMANDS: readonly Command[] = [
  { name: "families", usage: "families", run: families },
  { name: "schema", usage: "schema NAME", run: schema },
  { name: "faults", usage: "faults FILE", run: faults },
  { name: "measure", usage: "measure FILE", run: measure },
  { name: "netlist", usage: "netlist FILE", run: netlist },
  { name: "diagnose", usage: "diagnose FILE", run: diagnose },
  { name: "triage", usage: "triage FILE", run: triage },
  { name: "explain", usage: EXPLAIN_USAGE, run: explain },
  { name: "capture", usage: CAPTURE_USAGE, run: capture },
  { name: "trace", usage: "trace FILE", run: trace },
  { name: "check-spec", usage: "check-spec FILE", run: checkSpec },
  { name: "trial", usage: TRIAL_USAGE, run: trial },
];
