import { JOBS } from "./jobs";
import run from "./thread";

const ECT = { id: "ect", family: "thermistor-2w" };
const car = { job: { circuits: [ECT], entries: [] }, simulated: { faults: [{ id: "ect/wire:sig/open" }], seed: 7 }, call: 1 } as never;

describe("what is computed beside the thread that answers", () => {
  it("reads a virtual car, the same for the same call", () => {
    const measurements = [{ circuit: "ect", meter: "volts-dc", red: "sig@module", black: "bat-", setup: { key: "on" } }] as const;
    const read = (): unknown => JOBS.measure({ ...(car as object), measurements } as never);
    const [volts] = read() as number[];
    // An open signal wire: the pull-up alone is left at the module.
    expect(volts).toBeGreaterThan(4.7);
    expect(read()).toEqual([volts]);
  });
  it("asks its scan adapter", () => {
    expect(JOBS.scan({ ...(car as object), request: { do: "codes" } } as never)).toMatchObject({ codes: expect.any(Array) });
  });
  it("stores what its scope sees, an array a channel", () => {
    const channels = [
      { name: "sig", red: "ect:sig@module", black: "bat-" },
      { name: "gnd", red: "ect:gnd@module", black: "bat-" },
    ];
    const request = { circuit: "ect", channels, seconds: 0.1, rate: 1000, setup: { key: "on" }, bits: 12 };
    const [sig, gnd] = JOBS.scope({ ...(car as object), request } as never);
    expect([sig?.length, gnd?.length]).toEqual([100, 100]);
    expect(Math.min(...(sig ?? []))).toBeGreaterThan(4.6);
    expect(Math.max(...(gnd ?? []))).toBeLessThan(0.2);
  });
  it("says which readings of a file have no place", () => {
    const reading = { circuit: "ect", meter: "volts-dc", red: "sig@sensor", black: "bat-", value: 4.9 } as never;
    expect(JOBS.fits({ circuits: [ECT] as never, readings: [reading] })).toBeNull();
    expect(JOBS.fits({ circuits: [ECT] as never, readings: [{ ...(reading as object), red: "ref@sensor" } as never] })).toMatchObject({
      where: expect.stringContaining("readings[0]"),
    });
  });
});

it("a refusal crosses the threads as data, anything else as a failure", () => {
  expect(run({ name: "fits", input: { circuits: [{ id: "x", family: "nothing" }], readings: [] } as never })).toMatchObject({
    ok: false,
    problem: { code: expect.any(String), where: expect.stringContaining("circuits[0]") },
  });
  expect(run({ name: "fits", input: { circuits: [ECT], readings: [] } as never })).toEqual({ ok: true, value: null });
  expect(() => run({ name: "measure", input: null as never })).toThrow();
});
