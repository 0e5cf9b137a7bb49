import { refusalOf } from "../test/refusal";
import {
  circuitsSchema,
  diagnosisSchema,
  faultRefSchema,
  jobSchema,
  jsonSchemaOf,
  measureFileSchema,
  newEntrySchema,
  parseOrThrow,
  parsePoint,
  printPoint,
  readingSchema,
  SCHEMA_NAMES,
} from "./index";

describe("points", () => {
  it.each(["sig@sensor", "map:ref@module", "sig+@part", "htr-ctl@C12", "sig@C1.out", "ref@S1", "bat+", "chassis"])("reads and prints %s", (text) => {
    const point = parsePoint(text);
    expect(point).not.toBeNull();
    if (point) expect(printPoint(point)).toBe(text);
  });
  it.each(["sig", "sig@", "@sensor", "foo@sensor", "sig@moon", "sig@sensor.out", "sig@C1.in", "a b:sig@sensor", "bat"])("refuses %s", (text) => {
    expect(parsePoint(text)).toBeNull();
  });
});

describe("a job file", () => {
  const job = {
    format: "fox-lamp/job@1",
    circuits: [{ id: "ect", family: "thermistor-2w" }],
    readings: [{ id: "r1", meter: "scan", red: "sig@module", value: 4.98 }],
  };

  it("keeps fields it does not know", () => {
    expect(parseOrThrow(jobSchema, { ...job, workshop: "bay 2" })).toMatchObject({ workshop: "bay 2" });
  });
  it("is refused from a newer version", () => {
    expect(refusalOf(() => parseOrThrow(jobSchema, { ...job, format: "fox-lamp/job@2" }))).toBe(
      'format: "fox-lamp/job@2" cannot be read; expected "fox-lamp/job@1"',
    );
  });
  it("says where a reading is wrong", () => {
    const wrong = { ...job, readings: [job.readings[0], { meter: "lamp", red: "bat+", black: "gnd@sensor", value: 12 }] };
    expect(refusalOf(() => parseOrThrow(jobSchema, wrong))).toBe('readings[1].value: 12 is not a value of meter lamp; expected "lit", "dim", "out"');
  });
  it("names the unknown field of a setup", () => {
    const wrong = { ...job, readings: [{ meter: "scan", red: "sig@module", value: 1, setup: { opne: ["sensor"] } }] };
    expect(refusalOf(() => parseOrThrow(jobSchema, wrong))).toBe('readings[0].setup: unknown field "opne"');
  });
  it("lists the allowed words", () => {
    expect(refusalOf(() => parseOrThrow(readingSchema, { meter: "multimeter", red: "bat+", value: 1 }))).toContain("meter: expected one of volts-dc,");
  });
  it("needs its circuits", () => {
    expect(refusalOf(() => parseOrThrow(jobSchema, { readings: [] }))).toBe("circuits: expected array, got nothing");
    expect(refusalOf(() => parseOrThrow(jobSchema, { circuits: [] }))).toBe("circuits: expected at least one circuit");
  });
});

describe("circuits", () => {
  it("have each id once, and never the car's", () => {
    const twice = [
      { id: "a", family: "x" },
      { id: "a", family: "x" },
    ];
    expect(refusalOf(() => parseOrThrow(circuitsSchema, twice, "circuits"))).toBe('circuits[1].id: two circuits are called "a"; expected each id once');
    expect(refusalOf(() => parseOrThrow(circuitsSchema, [{ id: "car", family: "x" }], "circuits"))).toContain("implied circuit");
  });
});

describe("faults and measurements", () => {
  it("are checked by their shape", () => {
    expect(refusalOf(() => parseOrThrow(faultRefSchema, { id: "ect/open" }))).toContain("a fault is circuit/unit/kind");
    expect(refusalOf(() => parseOrThrow(measureFileSchema, { circuits: [{ id: "a", family: "b" }], measurements: [] }))).toBe(
      "measurements: expected at least one measurement",
    );
    const resistorless = {
      circuits: [{ id: "a", family: "b" }],
      measurements: [{ meter: "scan", red: "sig@module", setup: { add: [{ kind: "resistor", from: "sig@sensor", to: "gnd@sensor" }] } }],
    };
    expect(refusalOf(() => parseOrThrow(measureFileSchema, resistorless))).toBe("measurements[0].setup.add[0].ohms: a resistor needs its ohms");
    const wrongPoint = {
      circuits: [{ id: "a", family: "b" }],
      measurements: [{ meter: "scan", red: "sig@module", setup: { add: [{ kind: "jumper", from: "sig", to: "gnd@sensor" }] } }],
    };
    expect(refusalOf(() => parseOrThrow(measureFileSchema, wrongPoint))).toContain('"sig" is not a point');
  });
});

describe("entries", () => {
  const base = { id: "019abcde-0000-7000-8000-000000000001", at: "2026-03-02T09:14:00Z", by: "Wren" };
  it("carry the body of their kind", () => {
    expect(newEntrySchema.safeParse({ ...base, kind: "note", body: { text: "seal missing" } }).success).toBe(true);
    expect(newEntrySchema.safeParse({ ...base, kind: "note", body: {} }).success).toBe(false);
    expect(newEntrySchema.safeParse({ ...base, kind: "wish", body: {} }).success).toBe(false);
    expect(newEntrySchema.safeParse({ ...base, id: "r1", kind: "note", body: { text: "x" } }).success).toBe(false);
  });
});

describe("published schemas", () => {
  it.each([...SCHEMA_NAMES])("%s is a JSON Schema with a title", (name) => {
    expect(jsonSchemaOf(name)).toMatchObject({ title: `fox-lamp/${name}@1`, type: "object" });
  });
  it("has none for unknown names", () => {
    expect(jsonSchemaOf("toString")).toBeNull();
  });
  it("describes the diagnosis it is generated from", () => {
    expect(Object.keys(jsonSchemaOf("diagnosis")?.["properties"] as object)).toEqual(Object.keys(diagnosisSchema.shape));
  });
});
