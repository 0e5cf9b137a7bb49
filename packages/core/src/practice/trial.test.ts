import { Session } from "../diagnosis";
import { percentile, seededRandom } from "../numeric";
import { drawCar, runTrial, STEADY, solveCar, type TrialJob } from "./index";

describe("seeded random numbers", () => {
  it("repeat for a seed and differ between seeds", () => {
    const draw = (seed: number): number[] => {
      const random = seededRandom(seed);
      return Array.from({ length: 5 }, () => random.uniform());
    };
    expect(draw(7)).toEqual(draw(7));
    expect(draw(7)).not.toEqual(draw(8));
  });
  it("are normal with mean nought and deviation one", () => {
    const random = seededRandom(3);
    const sample = Array.from({ length: 20_000 }, () => random.normal());
    const mean = sample.reduce((sum, value) => sum + value, 0) / sample.length;
    const deviation = Math.sqrt(sample.reduce((sum, value) => sum + (value - mean) ** 2, 0) / sample.length);
    expect(Math.abs(mean)).toBeLessThan(0.03);
    expect(Math.abs(deviation - 1)).toBeLessThan(0.03);
  });
  it("follow weights", () => {
    const random = seededRandom(5);
    const counts = [0, 0, 0];
    for (let index = 0; index < 9000; index += 1) counts[random.weighted([1, 0, 2])] = (counts[random.weighted([1, 0, 2])] ?? 0) + 1;
    expect(counts[1]).toBe(0);
  });
  it("percentiles take the nearest rank", () => {
    expect(percentile([5, 1, 3], 0.5)).toBe(3);
    expect(percentile([], 0.5)).toBe(0);
  });
});

describe("a hidden car", () => {
  it("is the same for the same seed, readings included", () => {
    const read = (): unknown => {
      const car = drawCar([{ id: "c", family: "pressure-3w" }], seededRandom(11));
      return [car.hidden?.fault.id, car.stated, car.read({ meter: "scan", red: "sig@module" })];
    };
    expect(read()).toEqual(read());
  });
  it("keeps the physics of an added part on its own odd network", () => {
    for (let seed = 0; seed < 12; seed += 1) {
      const car = drawCar([{ id: "c", family: "pressure-3w" }], seededRandom(seed));
      if (car.hidden !== null && !car.hidden.fault.id.startsWith("c/sensor")) continue;
      const open = car.read({ meter: "volts-dc", red: "ref@sensor", black: "gnd@sensor", setup: { open: ["sensor"] } }) as number;
      const loaded = car.read({
        meter: "volts-dc",
        red: "ref@sensor",
        black: "gnd@sensor",
        setup: { open: ["sensor"], add: [{ kind: "resistor", from: "ref@sensor", to: "gnd@sensor", ohms: 4700 }] },
      }) as number;
      expect(Math.abs(open - loaded)).toBeLessThan(0.13);
    }
  });
});

describe("a trial", () => {
  const options = { jobs: 9, seed: 4, families: ["thermistor-2w", "potentiometer-3w", "pressure-3w"], blunders: 0, clock: () => 0 };
  const jobs: TrialJob[] = [];
  const result = runTrial(options, (job) => jobs.push(job));

  it("counts every job once", () => {
    expect(result.right + result.wrong + result.undecided).toBe(9);
    expect(jobs).toHaveLength(9);
    expect(result.calibration.reduce((sum, { n }) => sum + n, 0)).toBe(9);
    expect(result.meanTests).toBeGreaterThan(1);
  });
  it("declares nothing wrong on this seed and is mostly right", () => {
    expect(result.wrong).toBe(0);
    expect(result.right).toBeGreaterThanOrEqual(7);
  });
  it("gives the same for the same seed", () => {
    const again: string[] = [];
    runTrial({ ...options, jobs: 3 }, (job) => again.push(job.truth));
    expect(again).toEqual(jobs.slice(0, 3).map(({ truth }) => truth));
  });
});

describe("sound cars", () => {
  it("are not condemned more often than the verdicts say", () => {
    const cache = new Session();
    let condemned = 0;
    let admitted = 0;
    for (let seed = 0; seed < 8; seed += 1) {
      const random = seededRandom(seed);
      const car = drawCar([{ id: "c", family: seed % 2 === 0 ? "thermistor-2w" : "switch" }], random, { ...STEADY, sound: true });
      const { verdict } = solveCar(car, { blunders: 0, strategy: "advice", intermittent: false, stated: true, clock: () => 0 }, random, cache);
      if (verdict.status !== "proven" || verdict.unit?.endsWith("/outside")) continue;
      condemned += 1;
      admitted += 1 - verdict.probability;
    }
    // What was declared with p may be wrong in 1 - p of cases; two more than that would be no chance.
    expect(condemned).toBeLessThanOrEqual(admitted + 2);
  });
});

describe("harder cars", () => {
  const options = { jobs: 8, seed: 3, families: ["thermistor-2w", "switch"], blunders: 0, clock: () => 0 };
  it("a fault that comes and goes is hardly ever declared in the wrong place", () => {
    const result = runTrial({ ...options, intermittents: 1 });
    // One that was there for three readings on one side of a wire and away for three on the other looks like that wire's.
    expect(result.wrong).toBeLessThanOrEqual(1);
    expect(result.right).toBeGreaterThanOrEqual(5);
  });
  it("a contact cured by unplugging does not mislead", () => {
    expect(runTrial({ ...options, cures: 1 }).wrong).toBe(0);
  });
  it("two faults at once: each is named in the truth, and either counts", () => {
    const jobs: TrialJob[] = [];
    runTrial({ ...options, jobs: 4, doubles: 1 }, (job) => jobs.push(job));
    for (const { truth } of jobs) expect(truth.split("&")).toHaveLength(2);
  });
  it("asks for what nobody knows at the start", () => {
    const jobs: TrialJob[] = [];
    runTrial({ ...options, families: ["thermistor-2w"], jobs: 6, unstated: 1 }, (job) => jobs.push(job));
    expect(jobs.some(({ readings }) => readings.some(({ meter }) => meter === "gauge"))).toBe(true);
  });
  it("without judgement it takes longer: the textbook's order, and chance", () => {
    const minutes = (strategy: "advice" | "textbook" | "random"): number =>
      runTrial({ ...options, seed: 5, jobs: 6, families: ["thermistor-2w"], strategy }).meanMinutes;
    const advice = minutes("advice");
    expect(minutes("textbook")).toBeGreaterThan(1.3 * advice);
    expect(minutes("random")).toBeGreaterThan(1.3 * advice);
  });
});
