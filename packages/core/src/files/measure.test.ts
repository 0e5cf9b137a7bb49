import type { MeasureFile, Problem } from "@fox-lamp/language";
import { problemIn } from "../job";
import { listFaults, measureFile, netlistOf } from "./measure";

const file = (more: Partial<MeasureFile>): MeasureFile => ({ circuits: [{ id: "ect", family: "thermistor-2w" }], measurements: [], ...more }) as MeasureFile;
const volts = { meter: "volts-dc" as const, red: "sig@sensor", black: "bat-", setup: { open: ["sensor"] } };

/** What something is refused for. */
function refused(attempt: () => unknown): Problem {
  const problem = problemIn(attempt);
  if (problem === null) throw new Error("it was not refused");
  return problem;
}

describe("a file of measurements", () => {
  it("is measured on its car, beside what a healthy circuit shows", () => {
    const [healthy] = measureFile(file({ measurements: [volts] }));
    expect(healthy).toMatchObject({ meter: "volts-dc", red: "sig@sensor" });
    expect(healthy?.value).toBeCloseTo(5, 1);
    expect(healthy?.expect?.low).toBeLessThan(5);
    const [broken] = measureFile(file({ measurements: [volts], faults: [{ id: "ect/wire:sig/open" }] }));
    expect(Math.abs(broken?.value as number)).toBeLessThan(0.3);
    expect(broken?.expect).toEqual(healthy?.expect);
  });
  it("warns of what would do harm", () => {
    const jumped = { ...volts, setup: { ...volts.setup, add: [{ kind: "jumper" as const, from: "bat+", to: "sig@sensor" }] } };
    expect(measureFile(file({ measurements: [jumped] }))[0]?.warnings?.length).toBeGreaterThan(0);
    expect(measureFile(file({ measurements: [volts] }))[0]).not.toHaveProperty("warnings");
  });
  it.each([
    ["measurements[1].red", { measurements: [volts, { ...volts, red: "sig@C7" }] }],
    ["measurements[0].meter", { measurements: [{ meter: "look" as const, red: "sensor" }] }],
    ["faults[0]", { measurements: [volts], faults: [{ id: "ect/wire:sig/tired" }] }],
    ["circuits[0].family", { circuits: [{ id: "ect", family: "abacus" }], measurements: [volts] }],
  ])("says what is wrong at %s", (where, more) => {
    expect(refused(() => measureFile(file(more as Partial<MeasureFile>))).where).toContain(where);
  });
});

describe("the faults of a file's circuits", () => {
  it("are those that matter, likelihoods of one whole at most", () => {
    const faults = listFaults([{ id: "ect", family: "thermistor-2w" }]);
    expect(faults.map(({ id }) => id)).toEqual(expect.arrayContaining(["ect/wire:sig/open", "ect/sensor/skewed"]));
    expect(faults.reduce((sum, { prior }) => sum + prior, 0)).toBeLessThan(1.001);
    for (const { prior, title } of faults) {
      expect(prior).toBeGreaterThan(0);
      expect(title).not.toBe("");
    }
  });
});

describe("a deck", () => {
  it("holds the first measurement's circuit, and ends", () => {
    const deck = netlistOf(file({ measurements: [volts] }));
    expect(deck.split("\n").filter((line) => /^[RVI]/u.test(line)).length).toBeGreaterThan(5);
    expect(deck.trim().endsWith(".end")).toBe(true);
  });
  it("needs a measurement, with a working point", () => {
    expect(refused(() => netlistOf(file({}))).code).toBe("netlist:none");
    expect(refused(() => netlistOf(file({ measurements: [{ meter: "look", red: "sensor" }] }))).where).toContain("measurements[0]");
  });
});
