import { isWordMeter, METER_WORDS, METERS, meterWords, unitOfReading } from "./meters";
import { measurementSchema } from "./reading";

describe("every meter", () => {
  it.each([...METERS])("%s shows numbers, words, or is open to any word", (meter) => {
    const { numbers, words, open } = meterWords(meter);
    expect(numbers || words.length > 0 || open).toBe(true);
    expect(isWordMeter(meter)).toBe(!numbers);
    expect(new Set(words).size).toBe(words.length);
  });
  it.each([...METERS])("%s is accepted in a file", (meter) => {
    expect(measurementSchema.safeParse({ meter, red: "sig@sensor", black: "bat-" }).success).toBe(true);
  });
  it("is of the language, no other is", () => {
    expect(measurementSchema.safeParse({ meter: "abacus", red: "sig@sensor" }).success).toBe(false);
  });
  it("with leads says something of voltages", () => {
    for (const meter of METERS) if (METER_WORDS[meter].leads) expect(METER_WORDS[meter].electrical).toBe(true);
  });
});

describe("the unit of a reading", () => {
  it.each([
    [{ meter: "volts-dc" }, "V"],
    [{ meter: "ohms", unit: "kOhm" }, "ohm"],
    [{ meter: "duty" }, "%"],
    [{ meter: "scan" }, "V"],
    [{ meter: "scan", unit: "degC" }, "degC"],
    [{ meter: "scan", unit: null }, "V"],
    [{ meter: "gauge", unit: "kPa" }, "kPa"],
    [{ meter: "gauge" }, ""],
    [{ meter: "look" }, ""],
  ] as const)("%p is in %p", (reading, unit) => {
    expect(unitOfReading(reading)).toBe(unit);
  });
});
