import type { DiagnosedJob } from "@fox-lamp/core";
import { jobKey } from "./job-key";

const job = (value: number): DiagnosedJob => ({
  circuits: [{ id: "map", family: "pressure-3w" }],
  readings: [{ circuit: "map", meter: "volts-dc", red: "sig@sensor", black: "gnd@sensor", value }],
});

describe("the number of a job", () => {
  it("is the same for what says the same, whichever object says it, and another for anything else", () => {
    const first = job(4.98);
    const key = jobKey(first);
    expect(jobKey(first)).toBe(key);
    expect(jobKey(job(4.98))).toBe(key);
    expect(jobKey(job(4.97))).not.toBe(key);
    expect(jobKey(job(4.98))).toBe(key);
  });
  it("does not depend on the order of keys: a reading that comes back from the database says the same", () => {
    const [reading] = job(4.98).readings ?? [];
    const turned = Object.fromEntries(Object.entries(reading ?? {}).reverse());
    expect(jobKey({ readings: [turned], circuits: job(4.98).circuits } as unknown as DiagnosedJob)).toBe(jobKey(job(4.98)));
  });
  it("is never given twice, whatever was looked at in between", () => {
    const keys = Array.from({ length: 120 }, (_, index) => jobKey(job(index / 100)));
    expect(new Set(keys).size).toBe(120);
    // What was looked at long ago may get a new one; what has one object keeps it.
    const again = jobKey(job(0));
    expect(keys.slice(1)).not.toContain(again);
  });
});
