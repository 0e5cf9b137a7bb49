import type { DiagnosedJob } from "@fox-lamp/core";
import type { NextTest, Reading, Value } from "@fox-lamp/language";
import { NO_BOOK } from "../desk";
import { jobsAhead } from "./use-foresight";

const JOB: DiagnosedJob = { circuits: [{ id: "ect", family: "thermistor-2w" }], readings: [{ meter: "scan", red: "sig@module", value: 4.9 }] };
const asked = (more: Partial<NextTest>): NextTest => ({ test: "t", meter: "volts-dc", red: "sig@sensor", black: "bat-", setup: {}, ...more }) as NextTest;
const ahead = (test: NextTest | null, text = "", job: DiagnosedJob | null = JOB): Value[] =>
  jobsAhead({
    job,
    test,
    desk: { text, book: NO_BOOK, symptom: null },
    also: "degC",
    readingNow: (value, unit): Reading | null => test && { meter: test.meter, red: test.red, value, ...(unit === undefined ? {} : { unit }) },
  }).map(({ readings = [] }) => (readings.at(-1) as Reading).value);

describe("what is worked out before it is entered", () => {
  it("is the figure in the field, behind all that was read", () => {
    expect(ahead(asked({}), "4.98")).toEqual([4.98]);
    const [job] = jobsAhead({
      job: JOB,
      test: asked({}),
      desk: { text: "21 degC", book: NO_BOOK, symptom: null },
      also: "degC",
      readingNow: (value, unit = "V") => ({ meter: "scan", red: "sig@module", value, unit }),
    });
    expect(job).toEqual({ ...JOB, readings: [...(JOB.readings ?? []), { meter: "scan", red: "sig@module", value: 21, unit: "degC" }] });
  });
  it("is every word a test is answered with, though nothing is typed", () => {
    expect(ahead(asked({ meter: "lamp", red: "sig@sensor" }))).toEqual(["lit", "dim", "out"]);
    expect(ahead(asked({ meter: "look", red: "loom" }))).toContain("chafed");
  });
  it("is nothing while nothing is typed, what is typed is no reading, or the job is still computed", () => {
    expect(ahead(asked({}))).toEqual([]);
    expect(ahead(asked({}), "4.9 to")).toEqual([]);
    expect(ahead(asked({}), "twelve")).toEqual([]);
    expect(ahead(null, "4.9")).toEqual([]);
    expect(ahead(asked({}), "4.9", null)).toEqual([]);
  });
});
