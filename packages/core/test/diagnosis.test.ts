import { type Circuit, type Diagnosis, diagnosisSchema, type Measurement, type Reading, type Setup, unitTitle, type Value } from "@fox-lamp/language";
import fc from "fast-check";
import { refusalOf } from "../../language/test/refusal";
import { buildModel, type CircuitModel, completeSheets, FAMILIES } from "../src/circuit";
import { diagnoseJob, Session } from "../src/diagnosis";
import { faultsOf, middleSeverity, placeFault } from "../src/faults";
import { simulateReading } from "../src/instruments";
import { generateTests, measurementOf } from "../src/procedures";

const cache = new Session();
// Sheets that say everything: what is left out would be uncertain.
const [ECT, TPS, MAP] = completeSheets([
  { id: "ect", family: "thermistor-2w" },
  { id: "tps", family: "potentiometer-3w" },
  { id: "map", family: "pressure-3w" },
]) as [Circuit, Circuit, Circuit];
const COLD = { temperature: 18 };

type Fault = { id: string; ohms?: number; severity?: number; direction?: number };

/** Readings a technician would get on a car with these faults, rounded as a meter shows them. */
function take(circuit: Circuit, faults: Fault[], measurements: Omit<Measurement, "circuit">[]): Reading[] {
  const model = buildModel([circuit]);
  const known = faultsOf(model);
  const placed = faults.map((fault) => placeFault(model, known, fault, "faults"));
  return measurements.map((measurement, index): Reading => {
    const value = simulateReading(model, measurement as Measurement, placed, "m") as Value;
    return {
      ...(measurement as Measurement),
      id: `r${index + 1}`,
      circuit: circuit.id,
      value: typeof value === "number" ? Number(value.toPrecision(3)) : value,
    };
  });
}
const diagnose = (circuit: Circuit, readings: Reading[], more: Partial<Parameters<typeof diagnoseJob>[0]> = {}): Diagnosis =>
  diagnoseJob({ circuits: [circuit], readings, ...more }, cache);
const volts = (red: string, black: string, setup: Setup = {}) => ({ meter: "volts-dc" as const, red, black, setup });
const scan = (setup: Setup = {}) => ({ meter: "scan" as const, red: "sig@module", setup });
const partOhms = (setup: Setup = {}) => ({
  meter: "ohms" as const,
  red: "sig@part",
  black: "gnd@part",
  setup: { key: "off" as const, open: ["sensor"], ...setup },
});
const odds = (diagnosis: Diagnosis, unit: string): number => diagnosis.units.find((entry) => entry.unit === unit)?.probability ?? 0;

/** Follows the advice on a simulated car until nothing is left to do. */
function solve(
  circuit: Circuit,
  faults: Fault[],
  conditions = COLD as { temperature?: number; pressure?: number },
): { diagnosis: Diagnosis; readings: Reading[] } {
  let readings: Reading[] = [];
  let diagnosis = diagnose(circuit, readings, { conditions });
  for (let step = 0; step < 25 && diagnosis.next[0]; step += 1) {
    const { meter, red, black, setup } = diagnosis.next[0];
    const [reading] =
      meter === "look"
        ? [{ meter, red, setup, circuit: circuit.id, value: "ok" } as Reading]
        : take(circuit, faults, [{ meter, red, ...(black === null ? {} : { black }), setup }]);
    readings = [...readings, { ...(reading as Reading), id: `r${step + 1}` }];
    diagnosis = diagnose(circuit, readings, { conditions });
  }
  return { diagnosis, readings };
}

describe("a diagnosis", () => {
  it("keeps to its published shape", () => {
    const diagnosis = diagnose(ECT, take(ECT, [{ id: "ect/sensor/open" }], [scan({ truth: COLD })]));
    expect(() => diagnosisSchema.parse(diagnosis)).not.toThrow();
  });

  it("has probabilities that sum to at most one, the rest being a sound circuit", () => {
    const faults = faultsOf(buildModel([TPS])).filter(({ matters }) => matters);
    fc.assert(
      fc.property(
        fc.constantFrom(...faults),
        fc.subarray([
          scan({ truth: { position: 0 } }),
          scan({ truth: { position: 100 } }),
          volts("ref@sensor", "gnd@sensor", { truth: { position: 0 } }),
          volts("gnd@sensor", "bat-", { truth: { position: 0 } }),
        ]),
        (fault, measurements) => {
          const { units } = diagnose(TPS, take(TPS, [{ id: fault.id }], measurements));
          const sum = units.reduce((total, { probability }) => total + probability, 0);
          expect(sum).toBeGreaterThanOrEqual(0);
          expect(sum).toBeLessThanOrEqual(1 + 1e-9);
          for (const { probability } of units) expect(probability).toBeGreaterThanOrEqual(0);
        },
      ),
      { numRuns: 25 },
    );
  });

  it("does not depend on the order of readings", () => {
    const all = take(
      ECT,
      [{ id: "ect/contact:gnd@sensor/corroded", ohms: 3000 }],
      [scan({ truth: COLD }), volts("sig@sensor", "bat-", { truth: COLD }), volts("bat+", "bat-"), volts("gnd@sensor", "bat-", { truth: COLD })],
    );
    const straight = diagnose(ECT, all);
    fc.assert(
      fc.property(fc.shuffledSubarray(all, { minLength: all.length, maxLength: all.length }), (shuffled) => {
        const other = diagnose(ECT, shuffled);
        for (const { unit, probability } of straight.units) expect(odds(other, unit)).toBeCloseTo(probability, 9);
      }),
      { numRuns: 10 },
    );
  });

  it("a bad contact that reads sound after it was unplugged may have been cured; before, it is refuted", () => {
    const bad = take(ECT, [{ id: "ect/contact:gnd@sensor/open" }], [scan({ truth: COLD })]);
    const sound = take(ECT, [], [scan({ truth: COLD }), partOhms({ truth: COLD })]);
    const [soundScan, unplugging] = sound as [Reading, Reading];
    const againstWire = (readings: Reading[]): number => {
      const diagnosis = diagnose(ECT, readings);
      return odds(diagnosis, "ect/contact:gnd@sensor") / odds(diagnosis, "ect/wire:gnd");
    };
    const cured = againstWire([...bad, unplugging, soundScan]);
    const refuted = againstWire([...bad, soundScan, unplugging]);
    expect(cured).toBeGreaterThan(3 * refuted);
  });

  it("a fault that comes and goes is not refuted by readings that missed it", () => {
    const [seen] = take(ECT, [{ id: "ect/contact:gnd@sensor/open" }], [scan({ truth: COLD })]) as [Reading];
    const missed = take(ECT, [], [scan({ truth: COLD }), volts("gnd@sensor", "bat-", { truth: COLD })]);
    const steady = diagnoseJob({ circuits: [ECT], readings: [seen, ...missed] });
    const passing = diagnoseJob({ circuits: [ECT], readings: [seen, ...missed], intermittent: true });
    expect(steady.doubtful.length).toBeGreaterThan(0);
    expect(passing.doubtful).toEqual([]);
    expect(odds(passing, "ect/contact:gnd@sensor")).toBeGreaterThan(0.05);
    // Never from quiet readings alone: nothing is proven without a reading taken during the fault.
    const quiet = diagnoseJob({ circuits: [ECT], readings: missed, intermittent: true });
    expect(quiet.verdict.status).not.toBe("proven");
    // What the technician says of the complaint counts: it was gone while those two were read.
    const told = diagnoseJob({ circuits: [ECT], readings: [{ ...seen, symptom: true }, ...missed.map((reading) => ({ ...reading, symptom: false }))] });
    const faulty = ({ units }: Diagnosis): number => units.reduce((sum, { probability }) => sum + probability, 0);
    expect(faulty(told)).toBeGreaterThan(faulty(passing));
  });

  it("is not moved by a reading that says nothing about the circuit", () => {
    const readings = take(ECT, [{ id: "ect/wire:sig/open" }], [scan({ truth: COLD })]);
    const before = diagnose(ECT, readings);
    const after = diagnose(ECT, [
      ...readings,
      { id: "r9", circuit: "ect", meter: "hertz", red: "sig@sensor", black: "bat-", value: 0 },
      { id: "r10", circuit: "ect", meter: "look", red: "sensor", value: "squirrel" },
    ]);
    for (const { unit, probability } of before.units) expect(odds(after, unit)).toBeCloseTo(probability, 9);
  });

  it.each(FAMILIES.map(({ id }) => id))("never refutes health by readings of a healthy %s", (family) => {
    const circuit: Circuit = { id: "x", family };
    const model = buildModel([circuit]);
    const [built] = model.circuits;
    const { quantity } = (built as CircuitModel).built.world;
    const known = { temperature: 21, position: 0, pressure: 100 };
    const own = quantity === "temperature" || quantity === "position" || quantity === "pressure" ? { [quantity]: known[quantity] } : {};
    const measurements = generateTests(model, built as CircuitModel, own)
      .filter(({ meter, setup }) => meter !== "look" && setup.stimulus?.kind !== "vacuum" && (setup.truth?.position ?? 0) === 0)
      .map(measurementOf);
    fc.assert(
      fc.property(fc.shuffledSubarray(measurements, { minLength: 1, maxLength: Math.min(8, measurements.length) }), (chosen) => {
        const { verdict, units } = diagnose(circuit, take(circuit, [], chosen), { conditions: own });
        const faulty = units.reduce((sum, { probability }) => sum + probability, 0);
        expect(verdict.status).not.toBe("proven");
        expect(1 - faulty).toBeGreaterThan(0.06);
      }),
      { numRuns: 12 },
    );
  });

  it("says where a reading cannot belong", () => {
    expect(refusalOf(() => diagnose(ECT, [{ id: "r1", circuit: "oil", meter: "scan", red: "sig@module", value: 1 }]))).toBe(
      'readings[0].circuit: no circuit is called "oil"; expected one of ect',
    );
    expect(refusalOf(() => diagnoseJob({ circuits: [ECT, MAP], readings: [{ id: "r1", meter: "scan", red: "sig@module", value: 1 }] }))).toContain(
      "readings[0].circuit: says no circuit",
    );
    expect(refusalOf(() => diagnose(ECT, [{ id: "r1", meter: "ohms", red: "sig@part", black: "gnd@part", value: -4 }]))).toContain("-4 ohm is negative");
  });
});

describe("following the advice proves what a practitioner would name", () => {
  it.each<[string, Circuit, Fault, { temperature?: number; pressure?: number }]>([
    ["resistance in the signal wire", ECT, { id: "ect/wire:sig/resistance", ohms: 8500 }, COLD],
    ["a broken ground wire", ECT, { id: "ect/wire:gnd/open" }, COLD],
    ["an open sensor", ECT, { id: "ect/sensor/open" }, COLD],
    ["a sensor off its curve", ECT, { id: "ect/sensor/skewed", severity: 0.4 }, COLD],
    ["a chafed signal wire", ECT, { id: "ect/wire:sig/short-ground", ohms: 12 }, COLD],
    ["a missing pull-up", ECT, { id: "ect/module:pull/missing" }, COLD],
    ["an open wiper", TPS, { id: "tps/sensor/open" }, {}],
    ["a broken reference wire", TPS, { id: "tps/wire:ref/open" }, {}],
    ["a reference missing in the module", MAP, { id: "map/module:ref/missing" }, { pressure: 100 }],
    ["a sensor stuck low", MAP, { id: "map/sensor/stuck-low", severity: 0.5 }, { pressure: 100 }],
    ["a signal wire on the reference", MAP, { id: "map/wire:sig/short-to:ref", ohms: 3 }, { pressure: 100 }],
    ["a corroded ground contact at the module", MAP, { id: "map/contact:gnd@module/corroded", ohms: 900 }, { pressure: 100 }],
  ])("%s", (_name, circuit, fault, conditions) => {
    const { diagnosis, readings } = solve(circuit, [fault], conditions);
    const unit = fault.id.split("/").slice(0, 2).join("/");
    expect(diagnosis.verdict.status).toBe("proven");
    expect([diagnosis.verdict.unit, ...diagnosis.verdict.group]).toContain(unit);
    expect(readings.length).toBeLessThanOrEqual(14);
    expect(diagnosis.verdict.because.length).toBeGreaterThan(0);
    expect(diagnosis.next).toEqual([]);
  });

  it("a sound circuit ends as nothing found", () => {
    expect(solve(ECT, []).diagnosis.verdict.status).toBe("nothing-found");
  });

  it("an overheated engine is outside the circuit", () => {
    const { diagnosis } = solve(ECT, [], { temperature: 134 });
    expect(diagnosis.verdict).toMatchObject({ status: "proven", unit: "ect/outside" });
  });

  it("contacts that no test here tells apart stay a group, with what would separate them", () => {
    const { diagnosis } = solve(ECT, [{ id: "ect/contact:sig@sensor/corroded", ohms: 8000 }]);
    expect(diagnosis.verdict.status).toBe("proven");
    expect([...diagnosis.verdict.group].sort()).toEqual(["ect/contact:gnd@sensor", "ect/contact:sig@sensor"]);
    expect(diagnosis.verdict.separate).toContain("inspecting the bare terminals");
  });
});

describe("a verdict never rests on priors alone", () => {
  it("is not declared before anything is measured", () => {
    const { verdict } = diagnose(ECT, []);
    expect(verdict.status).toBe("narrowing");
    expect(verdict.because).toEqual([]);
  });
  it("names every rival as refuted by readings or as open", () => {
    const { verdict, units } = diagnose(ECT, take(ECT, [{ id: "ect/sensor/open" }], [scan({ truth: COLD }), partOhms()]));
    const named = new Set([verdict.unit, ...verdict.group, ...verdict.open, ...verdict.refuted.map(({ unit }) => unit)]);
    for (const { unit } of units) expect(named).toContain(unit);
  });
});

describe("slips are noticed and asked about", () => {
  const good = take(
    ECT,
    [{ id: "ect/wire:sig/resistance", ohms: 8500 }],
    [scan({ truth: COLD }), volts("sig@module", "bat-", { truth: COLD }), volts("sig@sensor", "bat-", { truth: COLD }), scan({ truth: COLD })],
  );
  const slipped = (reading: Partial<Reading> & { value: Value }, index = 1) =>
    diagnose(
      ECT,
      good.map((kept, at) => (at === index ? { ...kept, ...reading } : kept)),
    ).doubtful[0];
  const value = good[1]?.value as number;

  it("swapped leads", () => {
    expect(slipped({ value: -value })).toMatchObject({ reading: "r2", slip: "leads-swapped", suggested: value });
  });
  it("millivolts read as volts", () => {
    expect(slipped({ value: value / 1000 })).toMatchObject({ slip: "unit", suggested: value });
    expect(slipped({ value: value * 1000 })).toMatchObject({ slip: "unit", suggested: value });
  });
  it("ohms read as kilo-ohms", () => {
    const readings = [...take(ECT, [], [scan({ truth: COLD })]), { ...(take(ECT, [], [partOhms({ truth: COLD })])[0] as Reading), id: "r2", value: 2.94 }];
    expect(diagnose(ECT, readings).doubtful[0]).toMatchObject({ reading: "r2", slip: "unit" });
  });
  it("on circuits without a connector to unplug, too", () => {
    const battery: Circuit = { id: "b", family: "battery-crank" };
    const reading = (id: string, value: number): Reading => ({ id, circuit: "b", meter: "volts-dc", red: "bat+", black: "bat-", value });
    const { doubtful } = diagnose(battery, [reading("r1", 12.5), reading("r2", 12.5), reading("r3", 3.1)]);
    expect(doubtful[0]?.reading).toBe("r3");
  });
  it("two readings that agree outweigh one", () => {
    const [first] = take(ECT, [], [scan({ truth: COLD })]);
    const wrong: Reading = { ...(first as Reading), id: "r1", value: 0.4 };
    const right = (id: string): Reading => ({ ...(first as Reading), id });
    const { doubtful } = diagnose(ECT, [
      wrong,
      right("r2"),
      right("r3"),
      ...take(ECT, [], [partOhms({ truth: COLD })]).map((reading) => ({ ...reading, id: "r4" })),
    ]);
    expect(doubtful.map(({ reading }) => reading)).toEqual(["r1"]);
  });
  it("a clean job has none", () => {
    expect(diagnose(ECT, good).doubtful).toEqual([]);
  });
});

describe("advice", () => {
  it("uses only the tools on the bench", () => {
    const { next } = diagnose(TPS, [], { bench: ["meter"] });
    expect(next.length).toBeGreaterThan(0);
    for (const test of next) expect(test.needs.filter((tool) => tool !== "meter")).toEqual([]);
  });
  it("leaves out what is skipped and what has just been done", () => {
    const [first] = diagnose(ECT, [], { conditions: COLD }).next;
    expect(first).toBeDefined();
    const without = diagnose(ECT, [], { conditions: COLD, skipped: [first?.test ?? ""] });
    expect(without.next.map(({ test }) => test)).not.toContain(first?.test);
    const done = diagnose(ECT, take(ECT, [{ id: "ect/sensor/short", ohms: 3 }], [scan({ truth: COLD })]), { conditions: COLD });
    expect(done.next.map(({ test }) => test)).not.toContain(first?.test);
  });
  it("charges the way to a place once", () => {
    const far = { ...ECT, access: { sensor: 30, module: 30 } };
    const before = diagnose(far, [], { conditions: COLD }).next.find(({ title }) => title === "Signal at the sensor, plugged");
    const after = diagnose(far, take(far, [{ id: "ect/wire:sig/open" }], [volts("gnd@sensor", "bat-", { truth: COLD })]), { conditions: COLD }).next.find(
      ({ title }) => title === "Signal at the sensor, plugged",
    );
    expect((before?.minutes ?? 30.7) - (after?.minutes ?? 0)).toBeCloseTo(30, 1);
    expect([before?.wayMinutes, after?.wayMinutes]).toEqual([30, 0]);
  });
  it("asks for nothing at idle from an engine the module does not see turn", () => {
    const circuit: Circuit = { id: "crank", family: "vr-2w" };
    const seen = (value: number) =>
      diagnose(circuit, [{ id: "r1", circuit: "crank", meter: "scan", red: "sig+@module", unit: "rpm", setup: { key: "crank" }, value }]);
    expect(seen(0).next.length).toBeGreaterThan(0);
    expect(seen(0).next.some(({ setup }) => setup.key === "idle" || setup.key === "rev")).toBe(false);
    expect(seen(210).next.some(({ setup }) => setup.key === "idle")).toBe(true);
  });
  it("says what each outcome would mean", () => {
    const [test] = diagnose(ECT, [], { conditions: COLD }).next;
    expect(test?.outcomes.reduce((sum, { probability }) => sum + probability, 0)).toBeCloseTo(1, 1);
    expect(test?.ifHigh).toMatch(/%/u);
    expect(test?.expect.low).toBeLessThan(test?.expect.high ?? 0);
  });
  it("explains a suspect by what it predicts and what was read", () => {
    const { suspects } = diagnose(
      ECT,
      take(ECT, [{ id: "ect/sensor/short", ohms: 3 }], [scan({ truth: COLD }), volts("sig@sensor", "bat-", { open: ["sensor"] })]),
    );
    expect(suspects[0]?.fault).toBe("ect/sensor/short");
    expect(suspects[0]?.why).toMatch(/^Would read .+ at r\d; .+/u);
    expect(suspects[0]?.for.length).toBeGreaterThan(0);
  });
});

describe("several circuits", () => {
  it("share one probability: what is certain in one neither clears nor accuses the other", () => {
    const readings = take(ECT, [{ id: "ect/sensor/open" }], [scan({ truth: COLD }), partOhms()]);
    const { units, verdict } = diagnoseJob({ circuits: [ECT, { ...TPS }], readings }, cache);
    const inOther = units.filter(({ unit }) => unit.startsWith("tps/")).reduce((sum, { probability }) => sum + probability, 0);
    // What shares nothing is judged for itself: nobody has measured there, and a second fault is rare.
    expect(inOther).toBeLessThan(0.25);
    expect(units.filter(({ unit }) => unit.startsWith("tps/")).every(({ probability }) => probability < 0.1)).toBe(true);
    expect(verdict.unit).toBe("ect/sensor");
  });
});

describe("words", () => {
  it.each([
    ["ect/wire:sig", "Signal wire"],
    ["ect/contact:gnd@sensor", "Ground contact at the sensor"],
    ["ect/contact:ref@C1", "Reference contact at C1"],
    ["ect/module:gnd", "Module ground"],
    ["car/battery", "Battery"],
    ["car/ground:chassis", "Chassis ground"],
    ["ect/sensor", "Coolant sensor"],
  ])("%s is %s", (unit, title) => {
    expect(unitTitle(unit, "Coolant sensor")).toBe(title);
  });
  it("middle severities lie inside their ranges", () => {
    for (const { severity } of faultsOf(buildModel([MAP]))) {
      if (severity === null) continue;
      expect(middleSeverity(severity)).toBeGreaterThan(severity.low);
      expect(middleSeverity(severity)).toBeLessThan(severity.high);
    }
  });
});

describe("scope and gauge", () => {
  const cam: Circuit = { id: "cam", family: "hall-3w" };
  it("a scope shows both levels where a voltmeter averages, and they refute a weak ground at once", () => {
    const shown = simulateReading(buildModel([cam]), { meter: "capture", red: "sig@sensor", setup: { key: "idle" } }, [], "m");
    expect(shown).toMatchObject({ min: expect.closeTo(0, 0), max: expect.closeTo(5, 0) });
    const next = diagnoseJob({ circuits: [cam], bench: ["scope"] }).next.filter(({ technique }) => technique === "T10");
    expect(next[0]?.scope).toMatchObject({ coupling: "dc" });
    expect(next[0]?.scope?.secondsPerDivision).toBeGreaterThan(0);
    const { outcomes } = next[0] as (typeof next)[number];
    expect(outcomes.reduce((sum, { probability }) => sum + probability, 0)).toBeGreaterThan(0.95);
  });
  it("a knock sensor's ring is looked at with its bias taken away", () => {
    const next = diagnoseJob({ circuits: [{ id: "knock", family: "knock-2w" }], bench: ["scope"] }).next.filter(({ technique }) => technique === "T10");
    expect(next[0]?.scope?.coupling).toBe("ac");
  });
  it("asks for the true value where it would settle something, and takes it as known", () => {
    const circuits: Circuit[] = [{ id: "ect", family: "thermistor-2w" }];
    // Everything at the wire is as it should be; the module believes 60 degC.
    const readings: Reading[] = [
      { meter: "scan", red: "sig@module", unit: "degC", value: 60 },
      { meter: "volts-dc", red: "sig@sensor", black: "bat-", setup: { open: ["sensor"] }, value: 4.99 },
      { meter: "volts-dc", red: "gnd@sensor", black: "bat-", value: 0.004 },
    ];
    const { next } = diagnoseJob({ circuits, readings });
    expect(next.some(({ meter }) => meter === "gauge")).toBe(true);
    const cold = diagnoseJob({ circuits, readings: [...readings, { meter: "gauge", red: "part", unit: "degC", value: 18 }] });
    expect(cold.units[0]?.unit).toBe("ect/sensor");
    expect(cold.units[0]?.probability).toBeGreaterThan(0.9);
    const warm = diagnoseJob({ circuits, readings: [...readings, { meter: "gauge", red: "part", unit: "degC", value: 60 }] });
    expect(warm.units.find(({ unit }) => unit === "ect/sensor")?.probability ?? 0).toBeLessThan(0.3);
  });
});
