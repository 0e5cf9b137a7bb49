import type { Circuit, Diagnosis, Measurement, Reading, Setup } from "@fox-lamp/language";
import { buildModel, completeSheets } from "../src/circuit";
import { type DiagnosedJob, diagnoseJob, inferenceOf, openCase, preparations, Session } from "../src/diagnosis";
import { untouchedPoints } from "../src/diagnosis/decision/touched";
import { isUntoldTwin } from "../src/diagnosis/decision/twins";
import { learn } from "../src/diagnosis/likelihood/learn";
import { faultsOf, placeFault } from "../src/faults";
import { simulateReading } from "../src/instruments";
import { measurementOf } from "../src/procedures";

/** What instruments show on a car with the given faults at nominal tolerances. */
function readingsOn(
  circuits: readonly Circuit[],
  faults: readonly { id: string; ohms?: number; severity?: number }[],
  measurements: readonly Measurement[],
): Reading[] {
  const model = buildModel(circuits);
  const known = faultsOf(model);
  const placed = faults.map((fault, index) => placeFault(model, known, fault, `faults[${index}]`));
  return measurements.map((measurement, index) => ({
    ...measurement,
    id: `r${index + 1}`,
    value: simulateReading(model, measurement, placed, "reading") ?? "ok",
  }));
}

const volts = (red: string, setup: Setup = {}, black = "bat-"): Measurement => ({ meter: "volts-dc", red, black, setup });
const scan = (setup: Setup = {}, unit?: string): Measurement => ({ meter: "scan", red: "sig@module", setup, ...(unit === undefined ? {} : { unit }) });

/** Follows the advice on a car with faults until nothing is proposed any more. */
function followed(
  circuits: Circuit[],
  faults: readonly { id: string; ohms?: number; severity?: number }[],
  extra: Partial<DiagnosedJob> = {},
): { job: DiagnosedJob; end: Diagnosis } {
  const model = buildModel(circuits);
  const known = faultsOf(model);
  const placed = faults.map((fault, index) => placeFault(model, known, fault, `faults[${index}]`));
  const readings: Reading[] = [];
  const cache = new Session();
  for (;;) {
    const job: DiagnosedJob = { circuits, readings: [...readings], ...extra };
    const end = diagnoseJob(job, cache);
    const [next] = end.next;
    if (next === undefined || readings.length > 30) return { job, end };
    const measurement = measurementOf(next);
    readings.push({ ...measurement, id: `r${readings.length + 1}`, value: simulateReading(model, measurement, placed, "reading") ?? "ok" });
  }
}

describe("electronics on the brink of starving", () => {
  const circuits: Circuit[] = completeSheets([{ id: "maf", family: "maf-freq" }]);
  // Some 10 ohm in its ground leave the sensor about what it needs while cranking: it works on one car and not on the next.
  const crank: Setup = { key: "crank" };

  it("are predicted in both states where the supply is near what they need, and nowhere else", () => {
    const inference = inferenceOf(circuits);
    const probe = inference.probe(volts("sig@sensor", crank), "m");
    if (probe === null) throw new Error("no probe");
    const [table] = inference.tablesFor([{ key: "crank", probe }], null);
    const { grid } = inference;
    const ground = grid.faults.findIndex((fault) => fault?.id === "maf/contact:gnd@sensor/corroded");
    const own = Array.from({ length: grid.count }, (_, cell) => cell).filter((cell) => grid.fault[cell] === ground);
    const onBrink = own.filter((cell) => table?.brinks?.has(cell));
    expect(onBrink.length).toBeGreaterThan(0);
    expect(onBrink.length).toBeLessThan(own.length);
    for (const cell of onBrink) {
      const brink = table?.brinks?.get(cell);
      expect(brink?.share).toBeGreaterThan(0);
      expect(brink?.share).toBeLessThanOrEqual(0.5);
      // The two states are a switching output at half the pull-up's voltage, and one that stands at the pull-up.
      const [here, there] = [table?.mean[table.slot[cell] as number] ?? 0, table?.mean[brink?.slot ?? 0] ?? 0];
      expect(Math.abs(here - there)).toBeGreaterThan(0.3);
    }
    const healthy = table?.brinks?.get(0);
    expect(healthy).toBeUndefined();
  });

  it("leave a corroded ground open that works in one state and starves in the other", () => {
    for (const ohms of [7, 9, 11, 14]) {
      const readings = readingsOn(
        circuits,
        [{ id: "maf/contact:gnd@sensor/corroded", ohms }],
        [scan({}, "Hz"), volts("sig@sensor", crank), volts("gnd@sensor"), volts("feed@sensor")],
      );
      const { units } = diagnoseJob({ circuits, readings });
      expect(units.find(({ unit }) => unit === "maf/contact:gnd@sensor")?.probability ?? 0).toBeGreaterThan(0.1);
    }
  });
});

describe("what must be seen before a verdict", () => {
  it("a lead on the ground itself before the ground is condemned, on the post before the battery is", () => {
    const inference = inferenceOf([{ id: "ect", family: "thermistor-2w" }]);
    const numbered = (reading: Reading) => ({ reading, id: "r1", where: "readings[0]" });
    const indirect = numbered({ meter: "volts-dc", red: "gnd@sensor", black: "bat-", value: 2 });
    expect([...untouchedPoints(inference, "car/ground:chassis", [indirect], "ect")]).toEqual(["chassis"]);
    expect([...untouchedPoints(inference, "car/battery", [indirect], "ect")]).toEqual(["bat+"]);
    const direct = numbered({ meter: "volts-dc", red: "chassis", black: "bat-", value: 2 });
    expect([...untouchedPoints(inference, "car/ground:chassis", [direct], "ect")]).toEqual([]);
    expect([...untouchedPoints(inference, "ect/outside", [], "ect")]).toEqual([]);
  });

  it("a look is one witness however often it is taken, and is not proposed twice", () => {
    const circuits: Circuit[] = [{ id: "ect", family: "thermistor-2w" }];
    const look: Reading = { meter: "look", red: "sensor", setup: { key: "off", open: ["sensor"] }, value: "corroded" };
    const once = diagnoseJob({ circuits, readings: [look] });
    const often = diagnoseJob({ circuits, readings: [look, look, look, look] });
    expect(often.units.map(({ probability }) => probability.toFixed(6))).toEqual(once.units.map(({ probability }) => probability.toFixed(6)));
    expect(once.next.filter(({ meter, red }) => meter === "look" && red === "sensor")).toEqual([]);
    const corrected = diagnoseJob({ circuits, readings: [look, { ...look, value: "ok" }] });
    const fine = diagnoseJob({ circuits, readings: [{ ...look, value: "ok" }] });
    expect(corrected.units[0]?.probability).toBeCloseTo(fine.units[0]?.probability ?? 0, 6);
  });

  it("a module's pin and its inside are one verdict while no reading has told them apart", () => {
    const circuits: Circuit[] = [{ id: "level", family: "switch" }];
    // The module shows its pull-up though the pin is at ground: an open pin, or an input that stands there.
    const low: Setup = { truth: { level: "low" } };
    const readings = readingsOn(
      circuits,
      [{ id: "level/contact:sig@module/open" }],
      [scan(low), volts("sig@sensor", low), volts("sig@module", low), volts("gnd@sensor", {}, "gnd@module")],
    );
    const opened = openCase({ circuits, readings }, new Session());
    const posterior = opened.joint.circuits[0];
    if (posterior === undefined) throw new Error("nothing was weighed");
    const { units } = posterior.inference.grid;
    expect(isUntoldTwin(posterior, units.indexOf("level/contact:sig@module"), units.indexOf("level/module:input"))).toBe(true);
    expect(isUntoldTwin(posterior, units.indexOf("level/contact:sig@module"), units.indexOf("level/module:gnd"))).toBe(false);
    const { verdict } = diagnoseJob({ circuits, readings });
    expect([verdict.unit, ...verdict.group]).toEqual(expect.arrayContaining(["level/contact:sig@module"]));
    if (verdict.status === "proven") expect(verdict.group).toEqual(expect.arrayContaining(["level/module:input"]));
  });
});

describe("two faults at once", () => {
  for (const [family, faults] of [
    [
      "thermistor-2w",
      [
        { id: "c/contact:sig@module/corroded", ohms: 900 },
        { id: "c/contact:gnd@sensor/corroded", ohms: 2500 },
      ],
    ],
    [
      "potentiometer-3w",
      [
        { id: "c/contact:gnd@module/corroded", ohms: 800 },
        { id: "c/sensor/stuck-low", severity: 0.3 },
      ],
    ],
    ["maf-voltage", [{ id: "c/wire:pgnd/open" }, { id: "c/contact:ret@sensor/corroded", ohms: 3000 }]],
  ] as const) {
    it(`names one that is there, ${family}`, () => {
      const { end } = followed(completeSheets([{ id: "c", family }]), faults, { conditions: { temperature: 25, pressure: 99 } });
      const truths = faults.map(({ id }) => id.split("/").slice(0, 2).join("/"));
      const named = [end.verdict.unit, ...end.verdict.group, end.verdict.also?.unit];
      expect(truths.some((unit) => named.includes(unit))).toBe(true);
    });
  }
});

describe("readings that are added to weighed ones", () => {
  const circuits: Circuit[] = completeSheets([{ id: "tps", family: "potentiometer-3w" }]);
  const { job } = followed(circuits, [{ id: "tps/wire:gnd/resistance", ohms: 700 }]);

  it("end where weighing all at once ends", () => {
    const step = new Session();
    let last: Diagnosis | null = null;
    for (let count = 1; count <= (job.readings ?? []).length; count += 1) last = diagnoseJob({ ...job, readings: (job.readings ?? []).slice(0, count) }, step);
    const whole = diagnoseJob(job, new Session());
    expect(last?.verdict.unit).toBe(whole.verdict.unit);
    expect(last?.verdict.status).toBe(whole.verdict.status);
    for (const { unit, probability } of whole.units.slice(0, 8)) {
      const other = last?.units.find((entry) => entry.unit === unit)?.probability ?? 0;
      expect(Math.abs(other - probability)).toBeLessThan(1e-9);
    }
  });

  it("say the same whether or not the next advice was prepared", () => {
    const cold = new Session();
    const warm = new Session();
    const readings = job.readings ?? [];
    for (let count = 0; count <= readings.length; count += 1) {
      const part = { ...job, readings: readings.slice(0, count) };
      const answer = diagnoseJob(part, cold);
      expect(diagnoseJob(part, warm)).toEqual(answer);
      for (const _ of preparations(part, warm));
    }
  });

  it("teach a severity between two points of the grid", () => {
    const opened = openCase(job, new Session());
    const part = opened.clusters[0];
    if (part === undefined) throw new Error("nothing was weighed");
    const { inference, observations, evidence } = part;
    const { grid, columns } = inference;
    let best = 0;
    for (let cell = 1; cell < grid.count; cell += 1) if ((evidence.logLikelihood[cell] as number) > (evidence.logLikelihood[best] as number)) best = cell;
    expect(grid.units[grid.unitOfFault[grid.fault[best] as number] as number]).toBe("tps/wire:gnd");
    const numbers = observations.filter(({ number }) => number !== null);
    const { mean } = learn(numbers, best, columns.count);
    const severity = (grid.severity[best] as number) * Math.exp((mean[columns.severity] as number) * (grid.severitySpread[best] as number));
    expect(severity).toBeGreaterThan(560);
    expect(severity).toBeLessThan(840);
  });
});

describe("with no test left", () => {
  it("whoever still carries weight is in the verdict, so that nobody stands before a bench that has nothing to say", () => {
    // A wheel sensor whose volts reach the module, which does not count: its input, or one of its own pins.
    const crank: Setup = { key: "crank" };
    const volts = (at: string): Measurement => ({ meter: "volts-ac", red: `sig+@${at}`, black: `sig-@${at}`, setup: crank });
    const counts: Measurement = { meter: "scan", red: "sig+@module", unit: "rpm", setup: crank };
    const readings: Reading[] = [
      { ...counts, id: "r1", value: 0 },
      { ...volts("sensor"), id: "r2", value: 0.75 },
      { ...volts("module"), id: "r3", value: 0.75 },
      { ...counts, setup: { ...crank, stimulus: { kind: "wiggle", at: "module" } }, id: "r4", value: 0 },
      { meter: "look", red: "module", setup: { key: "off", open: ["module"] }, id: "r5", value: "ok" },
      { ...counts, id: "r6", value: 0 },
      { meter: "volts-dc", red: "sig+@sensor", black: "bat-", setup: { open: ["sensor"] }, id: "r7", value: 0.0114 },
      { meter: "volts-dc", red: "sig-@sensor", black: "bat-", setup: { open: ["sensor"] }, id: "r8", value: 0.0094 },
      { ...volts("module"), id: "r9", value: 0.75 },
    ];
    // Whatever else could be measured, the technician cannot do.
    const skipped: string[] = [];
    const asked = (): Diagnosis => diagnoseJob({ circuits: completeSheets([{ id: "crank", family: "vr-2w" }]), readings, skipped });
    let end = asked();
    while (end.next.length > 0) {
      skipped.push(...end.next.map(({ test }) => test));
      end = asked();
    }
    const { verdict } = end;
    expect(verdict.status).toBe("proven");
    expect(verdict.group).toEqual(expect.arrayContaining(["crank/module:input", "crank/contact:sig+@module", "crank/contact:sig-@module"]));
    expect(verdict.refuted.map(({ unit }) => unit)).not.toContain("crank/contact:sig-@module");
    expect(verdict.probability).toBeGreaterThan(0.95);
  });
});
