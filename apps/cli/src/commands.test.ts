import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { BadInput, type CaptureFile, captureFileSchema, diagnosisSchema } from "@fox-lamp/language";
import { COMMANDS } from "./commands";
import { readBytes } from "./input";

const folder = mkdtempSync(join(tmpdir(), "fox-lamp-"));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

function file(content: unknown): string {
  const path = join(folder, `${Math.random().toString(36).slice(2)}.json`);
  writeFileSync(path, typeof content === "string" ? content : JSON.stringify(content));
  return path;
}
const notes: string[] = [];
const run = async (name: string, ...words: string[]): Promise<string> => {
  const command = COMMANDS.find((candidate) => candidate.name === name);
  if (!command) throw new Error(`no command ${name}`);
  return command.run(words, { bytes: readBytes, note: (line) => notes.push(line) });
};
const json = async (name: string, ...words: string[]): Promise<never> => JSON.parse(await run(name, ...words)) as never;
const refusal = async (name: string, ...words: string[]): Promise<string> => {
  try {
    await run(name, ...words);
  } catch (error) {
    if (error instanceof BadInput) return error.message;
    throw error;
  }
  throw new Error("nothing was refused");
};

const ECT = { id: "ect", family: "thermistor-2w" };
const MEASURE = {
  circuits: [ECT],
  faults: [{ id: "ect/wire:sig/resistance", ohms: 8500 }],
  measurements: [
    { id: "a", meter: "scan", red: "sig@module" },
    { meter: "lamp", red: "bat+", black: "gnd@sensor", setup: { open: ["sensor"] } },
  ],
};

describe("commands", () => {
  it("families lists ids, pins and parameter schemas with defaults", async () => {
    const families: { id: string; pins: string[]; parameters: { properties: Record<string, { default?: unknown }> } }[] = await json("families");
    expect(families.map(({ id }) => id)).toEqual(
      expect.arrayContaining(["thermistor-2w", "dual-track", "hall-3w", "oxygen-narrow", "reference-bus", "switch"]),
    );
    expect(families).toHaveLength(16);
    expect(families[0]?.parameters.properties["pullup"]?.default).toBe(2200);
  });
  it("faults lists ids, units, severity ranges and priors", async () => {
    const faults: { id: string; unit: string; severity: unknown; prior: number; title: string }[] = await json("faults", file({ circuits: [ECT] }));
    expect(faults.find(({ id }) => id === "ect/wire:sig/resistance")).toMatchObject({ unit: "ect/wire:sig", severity: { key: "ohms" } });
    expect(faults.find(({ id }) => id === "ect/wire:sig/open")).toMatchObject({ severity: null });
    expect(faults.every(({ prior, title }) => prior > 0 && title.length > 0)).toBe(true);
    expect(await json("faults", file(ECT))).toEqual(faults);
  });
  it("measure gives every measurement its value and healthy window", async () => {
    const { measurements }: { measurements: { id?: string; value: unknown; expect: { low: number; high: number; unit: string; word?: string } }[] } =
      await json("measure", file(MEASURE));
    expect(measurements[0]).toMatchObject({ id: "a", expect: { unit: "V" } });
    expect(measurements[0]?.value).toBeCloseTo(4.18, 1);
    expect(measurements[1]).toMatchObject({ value: "lit", expect: { word: "lit" } });
  });
  it("netlist writes a deck of the first measurement", async () => {
    const deck = await run("netlist", file(MEASURE));
    expect(deck).toMatch(/^R\d+_ect_wire_sig_0 n_ect_sig_module n_ect_sig_sensor 8500$/m);
    expect(deck).toContain("* red=n_ect_sig_inside black=n_module_ground");
    expect(await run("netlist", file({ ...MEASURE, measurements: [MEASURE.measurements[1]] }))).toContain("\n* lamp\n");
  });
  it("diagnose answers a job file", async () => {
    const job = {
      format: "fox-lamp/job@1",
      circuits: [ECT],
      readings: [
        { id: "r1", meter: "scan", red: "sig@module", setup: { truth: { temperature: 18 } }, value: 4.99 },
        { id: "r2", meter: "ohms", red: "sig@part", black: "gnd@part", setup: { key: "off", open: ["sensor"] }, value: "OL" },
      ],
    };
    const diagnosis = diagnosisSchema.parse(await json("diagnose", file(job)));
    expect(diagnosis.verdict).toMatchObject({ status: "proven", unit: "ect/sensor" });
  });
  it("schema prints what it knows and lists it otherwise", async () => {
    expect(await json("schema", "job")).toMatchObject({ title: "fox-lamp/job@1" });
    expect(await refusal("schema", "banana")).toContain('"banana" is not a schema; expected one of job, circuit');
  });
  it("trial counts its jobs", async () => {
    expect(await json("trial", "--jobs", "2", "--seed", "1", "--family", "thermistor-2w", "--blunders", "0.03")).toMatchObject({ jobs: 2 });
  });
});

describe("bad input is one clear line", () => {
  it.each<[string, string[], string]>([
    ["diagnose", [], "a file is missing; expected fox-lamp diagnose FILE"],
    ["diagnose", ["a", "b"], '"b" is one argument too many'],
    ["diagnose", ["/nowhere/job.json"], "/nowhere/job.json: there is no such file"],
    ["trial", ["--jobs", "many", "--seed", "1"], '--jobs: "many" is not a whole number'],
    ["trial", ["--seed", "1"], "--jobs: is missing"],
    ["trial", ["--jobs", "1", "--seed", "1", "--family", "warp"], '--family: "warp" is not a family'],
    ["trial", ["--speed", "1"], "Unknown option '--speed'"],
    ["families", ["x"], "one argument too many"],
  ])("%s %j", async (name, words, message) => {
    expect(await refusal(name, ...words)).toContain(message);
  });
  it("for broken JSON and wrong files", async () => {
    expect(await refusal("measure", file("{ broken"))).toContain("is not JSON");
    expect(await refusal("measure", file({ circuits: [ECT], measurements: [{ meter: "look", red: "sensor" }] }))).toContain(
      'measurements[0].meter: "look" cannot be computed here',
    );
    expect(await refusal("measure", file({ ...MEASURE, faults: [{ id: "ect/wire:ref/open" }] }))).toBe(
      'faults[0].id: "ect/wire:ref/open" is not a fault of ect; the command faults lists them',
    );
    expect(await refusal("netlist", file({ ...MEASURE, measurements: [{ meter: "look", red: "sensor" }] }))).toContain("has no circuit to solve");
    expect(await refusal("faults", file({ nothing: true }))).toContain("circuits: expected array");
  });
});

describe("captures", () => {
  const car = {
    circuits: [{ id: "crank", family: "hall-3w", with: { teeth: 60, missing: 2, feedV: 12 } }],
    setup: { key: "idle" },
    channels: ["feed", "sig", "gnd"],
    rate: 20_000,
    seconds: 0.6,
    bits: 8,
    range: 20,
    faults: [{ id: "crank/wire:gnd/open" }],
    during: [{ from: 0.3, to: 0.38 }],
    brokenTeeth: [20],
  };
  const csvOf = async (content: unknown): Promise<string> => {
    const path = join(folder, `${Math.random().toString(36).slice(2)}.csv`);
    writeFileSync(path, await run("trace", file(content)));
    return path;
  };
  it("made by the virtual car say when its ground went, and which tooth is gone", async () => {
    const csv = await csvOf(car);
    const found: CaptureFile = captureFileSchema.parse(await json("capture", csv, "--circuit", file(car.circuits[0])));
    expect(found.firstToFail).toBe("gnd");
    const [feed, sig, gnd] = found.channels;
    expect(feed?.dropouts).toEqual([]);
    expect(gnd?.dropouts).toMatchObject([{ from: 0.3, to: 0.38, level: "high" }]);
    expect(sig?.dropouts).toMatchObject([{ level: "high" }]);
    expect(sig?.missing.some(({ designed, count }) => !designed && count === 1)).toBe(true);
  });
  it("are the same for the same seed", async () => {
    expect(await run("trace", file(car))).toBe(await run("trace", file(car)));
    expect(await run("trace", file({ ...car, seed: 2 }))).not.toBe(await run("trace", file(car)));
  });
  it("are refused with one sentence", async () => {
    const csv = await csvOf(car);
    expect(await refusal("capture", csv)).toBe("--circuit: is missing; expected fox-lamp capture CSV --circuit FILE [--known FILE]");
    expect(await refusal("capture", join(folder, "none.csv"), "--circuit", file(car.circuits[0]))).toContain("there is no such file");
    expect(await refusal("capture", csv, "--circuit", file({ circuits: [ECT, { ...ECT, id: "iat" }] }))).toBe("--circuit: holds 2 circuits; expected one");
    expect(await refusal("trace", file({ ...car, channels: ["sig9"] }))).toContain('channels[0]: "sig9" is no pin of these circuits');
    expect(await refusal("trace", file({ ...car, seconds: 600, rate: 1e6 }))).toContain("million samples");
  });
  it("check-spec prints what cannot be, what does not agree, and what a window lets pass", async () => {
    const source = { kind: "document", title: "Workshop book" };
    const of = { family: "potentiometer-3w", meter: "volts-dc", red: "ref@sensor", black: "bat-", setup: { key: "on" }, unit: "V", source };
    const given = {
      limits: [
        { ...of, id: "a", low: 4.8, high: 5.2 },
        { ...of, id: "b", low: 4.9, high: 5.1 },
        { ...of, id: "c", low: 5.2, high: 4.8 },
      ],
    };
    const found: { impossible: { name: string; code: string }[]; conflicts: { limits: string[]; used: string }[] } = await json("check-spec", file(given));
    expect(found.impossible.map(({ name, code }) => [name, code])).toEqual([["c", "reversed"]]);
    expect(found.conflicts).toMatchObject([{ limits: ["a", "b"] }]);
    expect(await refusal("check-spec", file({ limits: [{ ...of, unit: undefined }] }))).toMatch(/limits\[0\]\.unit/u);
    expect(await refusal("check-spec")).toContain("check-spec FILE");
    expect(JSON.stringify(await json("schema", "spec"))).toContain("fox-lamp/spec@1");
  });
});
