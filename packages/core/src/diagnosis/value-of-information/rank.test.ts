import type { Circuit, Measurement, Reading } from "@fox-lamp/language";
import fc from "fast-check";
import { buildModel, FAMILIES } from "../../circuit";
import { scaleOf } from "../../instruments";
import { measurementOf } from "../../procedures";
import { diagnoseJob, type Inference, inferenceOf, openCase, ownTest, Session } from "..";
import { knownFor } from "../inference/diagnosed-job";
import { binAxisOf } from "./bins";
import { informationBits } from "./outcomes";
import { ALONG_MINUTES, minutesOf } from "./price";
import { separable, wholeOf } from "./rank";
import { type WorkDone, workDoneOf } from "./work-done";

const conditions = { temperature: 20, pressure: 100 };
const inferences = new Map<string, Inference>();
function engineOf(family: string): Inference {
  const known = inferences.get(family) ?? inferenceOf([{ id: "x", family }], { conditions: { x: conditions } });
  inferences.set(family, known);
  return known;
}
const FAMILY_IDS = FAMILIES.map(({ id }) => id);

describe("the grid of hypotheses", () => {
  it.each(FAMILY_IDS)("%s: priors sum to one, severities lie in their faults' ranges, every fault has a point", (family) => {
    const { grid } = engineOf(family);
    expect(grid.prior.reduce((sum, weight) => sum + weight, 0)).toBeCloseTo(1, 9);
    const met = new Set<number>();
    for (let cell = 0; cell < grid.count; cell += 1) {
      const at = grid.fault[cell] as number;
      met.add(at);
      expect(grid.prior[cell]).toBeGreaterThan(0);
      const scale = grid.faults[at]?.severity ?? null;
      if (scale === null) continue;
      expect(grid.severity[cell]).toBeGreaterThanOrEqual(scale.low);
      expect(grid.severity[cell]).toBeLessThanOrEqual(scale.high);
      expect(grid.severitySpread[cell]).toBeGreaterThan(0);
    }
    expect(met.size).toBe(grid.faults.length);
    for (const [index, fault] of grid.faults.entries()) expect(grid.units[grid.unitOfFault[index] as number]).toBe(fault?.unit ?? "");
  });
});

describe("the bins of what can be read", () => {
  it.each(FAMILY_IDS)("%s: follow each other without a gap, and every value falls between its bin's edges", (family) => {
    const inference = engineOf(family);
    for (const { probe } of inference.tests()) {
      const [table] = inference.tablesFor([{ key: `bins ${family}`, probe }], []);
      if (table === undefined) throw new Error("no table");
      const axis = binAxisOf({ ...table, probe });
      const { edges } = axis;
      for (let bin = 0; bin < axis.bins; bin += 1) expect(edges[bin + 1] as number).toBeGreaterThan(edges[bin] as number);
      if (axis.bins === 0) continue;
      for (const share of [0.1, 0.5, 0.9]) {
        const value = (edges[0] as number) + share * ((edges[axis.bins] as number) - (edges[0] as number));
        const bin = axis.binOf(value);
        expect(value).toBeGreaterThanOrEqual((edges[bin] as number) - 1e-9);
        expect(value).toBeLessThanOrEqual((edges[bin + 1] as number) + 1e-9);
      }
      expect(axis.binOf(Number.MAX_SAFE_INTEGER)).toBe(axis.bins - 1);
      expect(axis.binOf(-Number.MAX_SAFE_INTEGER)).toBe(0);
    }
  });

  it.each(FAMILY_IDS)("%s: a number comes back from the scale it is weighed on", (family) => {
    for (const { probe } of engineOf(family).tests()) {
      const scale = scaleOf(probe);
      // A module's own value is held inside its range: its middle comes back.
      const { low, high } = probe.circuit.built.world;
      const shown = scale.axis === "world" || (probe.kind === "electrical" && probe.meter === "scan" && probe.unit !== null) ? 0.5 * (low + high) : 3.7;
      if (scale.axis === "none" || scale.unit === "Hz") continue;
      expect(scale.fromScale(scale.toScale(shown))).toBeCloseTo(shown, 3);
      expect(scale.broad).toBeGreaterThan(0);
    }
  });
});

describe("what a test costs", () => {
  const NOTHING: WorkDone = {
    looked: new Set(),
    go: null,
    known: {},
    reached: new Set(),
    unplugged: new Set(),
    done: new Map(),
    last: null,
    unchanged: new Set(),
    differing: new Set(),
    complaint: "unknown",
    doubted: new Set(),
    bench: null,
    passing: false,
    noStart: false,
    skipped: new Set(),
  };
  const inference = engineOf("pressure-3w");
  const access = () => ({ sensor: 6, module: 11 });

  it("falls with every place that was reached and every plug that was pulled, and never below the test itself", () => {
    const places = ["x:sensor", "module"];
    fc.assert(
      fc.property(fc.constantFrom(...inference.tests()), fc.subarray(places), fc.subarray(places), (test, reached, unplugged) => {
        const some: WorkDone = { ...NOTHING, reached: new Set(reached), unplugged: new Set(unplugged) };
        const all: WorkDone = { ...NOTHING, reached: new Set(places), unplugged: new Set(places) };
        const [none, now, least] = [NOTHING, some, all].map((progress) => minutesOf(test, access, progress)) as [number, number, number];
        expect(now).toBeLessThanOrEqual(none);
        expect(least).toBeLessThanOrEqual(now);
        expect(least).toBeGreaterThanOrEqual(test.procedure.minutes - 1e-9);
      }),
    );
  });

  it("is the circuit's own minutes to a place where it states them", () => {
    const test = inference.tests().find(({ procedure }) => procedure.reach.join() === "sensor" && procedure.opens.length === 0);
    if (test === undefined) throw new Error("no test at the sensor");
    expect(minutesOf(test, access, NOTHING)).toBeCloseTo(test.procedure.minutes + 6, 9);
    expect(minutesOf(test, () => undefined, NOTHING)).toBeCloseTo(test.procedure.minutes + 2, 9);
  });

  it("is next to nothing on the screen that was just read, and all of it again where the connector has to be moved once more", () => {
    const job = { circuits: [{ id: "x", family: "dual-track" }] };
    const moved = (red: string): Reading => ({
      id: red,
      circuit: "x",
      meter: "scan",
      red,
      setup: { stimulus: { kind: "wiggle", at: "sensor" }, truth: { position: 0 } },
      value: 1,
    });
    const tests = engineOf("dual-track").tests();
    const of = (red: string) => tests.find(({ procedure: { meter, setup, red: lead } }) => meter === "scan" && setup.stimulus?.at === "sensor" && lead === red);
    const [first, second] = [of("sig1@module"), of("sig2@module")];
    if (first === undefined || second === undefined) throw new Error("no such tests");
    const after = (...readings: Reading[]): WorkDone =>
      workDoneOf(
        readings.map((reading) => ({ id: reading.id ?? "", where: "", reading })),
        "x",
        job,
        new Set(),
        false,
        {},
      );
    const one = moved("sig1@module");
    expect(minutesOf(second, access, after(one))).toBe(ALONG_MINUTES);
    expect(minutesOf(first, access, after(one))).toBeGreaterThan(1);
    expect(minutesOf(first, access, after(one, moved("sig2@module")))).toBeGreaterThan(1);
    expect(minutesOf(second, access, after(one, { id: "u", circuit: "x", meter: "volts-dc", red: "ref1@sensor", black: "bat-", value: 5 }))).toBeGreaterThan(1);
  });
});

describe("a value that stands on the same screen", () => {
  const circuits: Circuit[] = [{ id: "x", family: "dual-track" }];
  const read = (id: string, red: string, value: number, setup = {}): Reading => ({
    id,
    meter: "scan",
    red,
    setup: { truth: { position: 0 }, ...setup },
    value,
  });
  const first = read("r1", "sig1@module", 0.8);
  const onceMoved = { stimulus: { kind: "wiggle", at: "sensor" } } as const;

  it("is read along where it makes the go worth more a minute, and comes first then", () => {
    const { next } = diagnoseJob({ circuits, readings: [first], conditions });
    const [top] = next;
    expect(top).toMatchObject({ meter: "scan", red: "sig2@module", minutes: ALONG_MINUTES });
    const both = [first, read("r2", "sig2@module", 4.1)];
    const moved = diagnoseJob({ circuits, readings: both, conditions }).next.find(({ setup, meter }) => meter === "scan" && setup.stimulus?.kind === "wiggle");
    expect(moved?.along).toHaveLength(1);
    expect(moved?.along?.[0]?.circuit).toBe("x");
    expect(moved?.along?.[0]?.test).not.toBe(moved?.test);
    const { next: after } = diagnoseJob({ circuits, readings: [...both, read("r3", "sig1@module", 0.8, onceMoved)], conditions });
    expect(after[0]).toMatchObject({ red: "sig2@module", setup: onceMoved, minutes: ALONG_MINUTES });
  });

  it("counts with its minutes and its bits", () => {
    const { tests } = openCase({ circuits, readings: [first], conditions }, new Session()).standing();
    for (const { test } of tests) {
      const { gainBits, minutes } = wholeOf(test);
      expect(test.score).toBeCloseTo(gainBits / minutes, 9);
      expect(test.along).not.toContain(test);
      expect(gainBits).toBeGreaterThanOrEqual(test.gainBits);
    }
    expect(tests.some(({ test: { along } }) => along.length > 0)).toBe(true);
  });
});

describe("whether tests tell two units apart", () => {
  const circuits: Circuit[] = [{ id: "x", family: "pressure-3w" }];
  const readings: Reading[] = [{ id: "r1", meter: "scan", red: "sig@module", setup: {}, value: 0.01 }];
  const opened = openCase({ circuits, readings, conditions }, new Session());
  const [tests = []] = opened.standing().possible;
  const [posterior] = opened.joint.circuits;
  if (posterior === undefined) throw new Error("no circuit");
  const { units } = posterior.inference.grid;
  const unit = (name: string): number => units.indexOf(`x/${name}`);

  it("is asked of their own points alone and agrees with asking all", () => {
    const pairs = [
      [unit("sensor"), unit("wire:sig")],
      [unit("wire:ref"), unit("contact:ref@sensor")],
    ] as const;
    for (const [first, second] of pairs) {
      const scale = new Float64Array(units.length);
      for (const at of [first, second]) scale[at] = 0.5 / (posterior.units[at] as number);
      for (const test of tests.slice(0, 12)) {
        const alone = informationBits(test.between(first, second), scale);
        const among = informationBits(test.outcomes(), scale);
        expect(Math.abs(alone - among)).toBeLessThan(0.03);
      }
    }
  });

  it("says no of what no lead can reach between, yes of what one reading shows", () => {
    expect(separable(tests, unit("sensor"), unit("wire:sig"), posterior.units, 0.12)).toBe(true);
    expect(separable(tests, unit("sensor"), unit("wire:sig"), posterior.units, 1.01)).toBe(false);
  });

  it("ranks no test that tells nothing, and the best first", () => {
    const { tests: ranked } = opened.standing();
    expect(ranked.length).toBeGreaterThan(3);
    ranked.forEach(({ test }, index) => {
      expect(test.gainBits).toBeGreaterThan(0);
      expect(test.score).toBeLessThanOrEqual(ranked[index - 1]?.test.score ?? Number.POSITIVE_INFINITY);
    });
  });
});

describe("a test of one's own", () => {
  const circuits: Circuit[] = [{ id: "x", family: "potentiometer-3w" }];
  const measure = (measurement: Partial<Measurement>): Measurement =>
    ({ meter: "volts-dc", red: "sig@sensor", black: "bat-", setup: {}, ...measurement }) as Measurement;

  it("shows what the advice shows for the same measurement", () => {
    const job = { circuits, readings: [], conditions };
    const cache = new Session();
    for (const advised of diagnoseJob(job, cache).next.slice(0, 6)) {
      const own = ownTest(job, measurementOf(advised), cache);
      expect(own.expect).toEqual(advised.expect);
      expect(own.outcomes.map(({ key }) => key)).toEqual(advised.outcomes.map(({ key }) => key));
      expect(own.gainBits).toBeCloseTo(advised.gainBits, 3);
    }
  });

  it("warns of what would harm, needs the tools it uses, and is priced", () => {
    const job = { circuits, readings: [], conditions };
    const live = ownTest(job, measure({ meter: "ohms", red: "sig@sensor", black: "gnd@sensor" }), new Session());
    expect(live.cautions.length).toBeGreaterThan(0);
    const lamp = ownTest(job, measure({ setup: { add: [{ kind: "lamp", from: "bat+", to: "gnd@sensor" }] } }), new Session());
    expect(lamp.needs).toEqual(expect.arrayContaining(["meter", "lamp"]));
    expect(lamp.minutes).toBeGreaterThan(0);
  });

  it("of a circuit the job has not is refused by name", () => {
    expect(() => ownTest({ circuits, readings: [], conditions }, measure({ circuit: "nobody" }), new Session())).toThrow(/"nobody".*expected one of x/u);
  });
});

describe("a sensor that is never tapped", () => {
  it("is one whose rate does not stop; a piezo on the block is", () => {
    const taps = (family: string): number =>
      engineOf(family)
        .tests()
        .filter(({ procedure }) => procedure.setup.stimulus?.kind === "tap").length;
    for (const family of ["pressure-freq", "maf-freq", "hall-3w", "vr-2w"]) expect(taps(family)).toBe(0);
    expect(taps("knock-2w")).toBeGreaterThan(0);
  });
});

describe("the outside air", () => {
  const circuit = (family: string, transfer?: [number, number][]): Circuit => ({ id: "x", family, ...(transfer === undefined ? {} : { with: { transfer } }) });
  const OIL: [number, number][] = [
    [0, 0.5],
    [1000, 4.5],
  ];
  const seesIt = (given: Circuit): boolean => buildModel([given]).circuits[0]?.built.world.outsideAir === true;

  it("is what a manifold sensor sees with the key on, and no oil or fuel pressure sensor", () => {
    expect(seesIt(circuit("pressure-3w"))).toBe(true);
    expect(seesIt(circuit("pressure-freq"))).toBe(true);
    expect(seesIt(circuit("pressure-3w", OIL))).toBe(false);
    expect(seesIt(circuit("thermistor-2w"))).toBe(false);
  });

  it("counts where all pressure sensors of the job see it and nobody says a pressure", () => {
    const manifold = { ...circuit("pressure-3w"), id: "map" };
    const oil = { ...circuit("pressure-3w", OIL), id: "oil" };
    const known = (circuits: Circuit[], said: { pressure?: number } = {}): number | undefined => knownFor(buildModel(circuits), "map", said, 92).pressure;
    expect(known([manifold])).toBe(92);
    expect(known([manifold], { pressure: 50 })).toBe(50);
    expect(known([manifold, oil])).toBeUndefined();
  });
});
