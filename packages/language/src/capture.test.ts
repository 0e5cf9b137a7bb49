import {
  captureFileSchema,
  capturePart,
  carriedCaptureSchema,
  MOST_CAPTURE_BYTES,
  readingSchema,
  scopeRequestSchema,
  storedCaptureSchema,
  traceFileSchema,
} from "./index";

const ANALYSIS = { channels: [], firstToFail: null, camCrank: { degrees: [], shiftDegrees: null } };
const STORED = {
  title: "Crank while it dies",
  source: "file",
  start: 0,
  rate: 1000,
  length: 100,
  channels: [{ name: "crank:sig", unit: "V", circuit: "crank", red: "sig@sensor", black: "bat-" }],
  setup: { key: "crank" },
  analysis: ANALYSIS,
};

describe("a stored capture", () => {
  it("says what is known of it; its analysis may be an older one without findings", () => {
    expect(storedCaptureSchema.parse(STORED).analysis.findings).toEqual([]);
    expect(captureFileSchema.safeParse({ ...ANALYSIS, format: "fox-lamp/capture@2" }).success).toBe(false);
  });
  it.each([
    ["length", { length: 1 }],
    ["length", { length: 30_000_000 }],
    ["rate", { rate: 0 }],
    ["channels", { channels: [] }],
    ["channels", { channels: Array.from({ length: 9 }, (_, index) => ({ ...STORED.channels[0], name: `c${index}` })) }],
    ["title", { title: "" }],
  ])("is refused for a %s that cannot be", (field, over) => {
    const parsed = storedCaptureSchema.safeParse({ ...STORED, ...over });
    expect(parsed.success).toBe(false);
    expect(parsed.error?.issues[0]?.path[0]).toBe(field);
  });
  it("has parts of a channel and a block, or a channel's overview", () => {
    for (const part of ["0-0", "7-152", "3-p"]) expect(capturePart.safeParse(part).success).toBe(true);
    for (const part of ["", "0", "a-1", "0-12345", "../0-0", "0-p/1"]) expect(capturePart.safeParse(part).success).toBe(false);
    const carried = { ...STORED, id: "0195c000-0000-7000-8000-000000000001", parts: { "0-0": "AA==" } };
    expect(carriedCaptureSchema.safeParse(carried).success).toBe(true);
    expect(carriedCaptureSchema.safeParse({ ...carried, parts: { nonsense: "AA==" } }).success).toBe(false);
    expect(MOST_CAPTURE_BYTES).toBeGreaterThan(1e6);
  });
});

describe("a reading taken from a capture", () => {
  const reading = { id: "r1", circuit: "cam", meter: "capture", red: "sig@sensor", black: "bat-", setup: {} };
  it("has two levels, or the one it stands at, and knows its stretch", () => {
    const capture = { id: "0195c000-0000-7000-8000-000000000001", channel: "cam:sig", from: 0.4, to: 0.5 };
    expect(readingSchema.parse({ ...reading, value: { min: 0.1, max: 5 }, capture }).capture).toEqual(capture);
    expect(readingSchema.safeParse({ ...reading, value: 4.9 }).success).toBe(true);
    expect(readingSchema.safeParse({ ...reading, value: 4.9, capture: { ...capture, id: "7" } }).success).toBe(false);
  });
});

describe("what a scope is asked for", () => {
  const request = { circuit: "cam", channels: [{ name: "sig", red: "sig@sensor", black: "bat-" }], seconds: 1, rate: 10_000 };
  it("has eight bits and an ignition switched on unless somebody says otherwise", () => {
    expect(scopeRequestSchema.parse(request)).toMatchObject({ bits: 8, setup: {} });
  });
  it("is refused beyond what is made at once, with a sentence", () => {
    const many = scopeRequestSchema.safeParse({ ...request, seconds: 60, rate: 1_000_000 });
    expect(many.error?.issues[0]?.message).toContain("over 4 million samples");
    expect(scopeRequestSchema.safeParse({ ...request, bits: 9 }).success).toBe(false);
    expect(scopeRequestSchema.safeParse({ ...request, channels: [] }).success).toBe(false);
  });
});

describe("the file of a simulated capture", () => {
  const file = { circuits: [{ id: "cam", family: "hall-3w" }], channels: ["sig"], rate: 10_000, seconds: 1 };
  it("needs circuits, channels, a rate and a length; a seed is one unless given", () => {
    expect(traceFileSchema.parse(file).seed).toBe(1);
    for (const missing of ["circuits", "channels", "rate", "seconds"]) expect(traceFileSchema.safeParse({ ...file, [missing]: undefined }).success).toBe(false);
  });
  it("is refused for more channels or samples than a capture has", () => {
    expect(traceFileSchema.safeParse({ ...file, channels: Array.from({ length: 9 }, () => "sig") }).error?.issues[0]?.message).toBe(
      "expected at most 8 channels",
    );
    expect(traceFileSchema.safeParse({ ...file, seconds: 500, rate: 1e6 }).error?.issues[0]?.message).toContain("20 million samples");
  });
});
