import { compared, curveMeasurement, NO_PART, newTemperatureOf } from "./compare";
import { NO_WIRING, wiringOf } from "./WiringFields";

const ECT = { id: "ect", family: "thermistor-2w", title: "Coolant temperature", with: { resistance: [2000, 3000] } };
const PURGE = { id: "purge", family: "solenoid-2w", title: "Purge valve", with: { coil: [20, 28] } };

describe("a new part against the old one", () => {
  it("reads ohms as they are typed anywhere, and says which of them is none", () => {
    const { part, problems } = compared({ ...NO_PART, oldOhms: "OL", newOhms: "2k5" }, "ect/sensor", [ECT]);
    expect(part).toMatchObject({ oldOhms: "OL", newOhms: 2500, shape: true });
    expect(problems).toEqual({});
    const wrong = compared({ ...NO_PART, oldOhms: "12 V", newOhms: "about two" }, "ect/sensor", [ECT]);
    expect(wrong.part).toBeNull();
    expect(wrong.problems.oldOhms).toMatch(/V/u);
    expect(wrong.problems.newOhms).toBeDefined();
  });
  it("matches only with the same shape and a resistance inside the specification", () => {
    const at = (newOhms: string, same = true) => compared({ ...NO_PART, newOhms, same }, "ect/sensor", [ECT]);
    expect([at("2k5").matches, at("9k").matches, at("2k5", false).matches, at("").matches]).toEqual([true, false, false, false]);
    expect(at("9k").hint).toMatch(/outside the specification/u);
    expect(at("9k").outside).toBe(true);
  });

  it("is held against a winding's window at its own temperature", () => {
    const warm = (newOhms: string, newTemperature: string) => compared({ ...NO_PART, newOhms, newTemperature }, "purge/coil", [PURGE]);
    expect([warm("30", "").outside, warm("30", "90 °C").outside]).toEqual([true, false]);
    expect(warm("30", "90 °C").hint).toMatch(/25.* to 35.*90 °C/u);
    expect(warm("OL", "20 °C").outside).toBe(true);
  });
  it("of a sensor with a curve is held against the curve at the temperature it had", () => {
    expect(curveMeasurement("ect/sensor", ECT, newTemperatureOf({ ...NO_PART, newTemperature: "80 °C" }))).toMatchObject({
      meter: "ohms",
      setup: { truth: { temperature: 80 } },
    });
    expect(curveMeasurement("ect/sensor", ECT, null)).toBeNull();
    expect(curveMeasurement("purge/coil", PURGE, 80)).toBeNull();
    const curve = { low: 290, high: 350, unit: "ohm" };
    expect(compared({ ...NO_PART, newOhms: "320", newTemperature: "80 °C" }, "ect/sensor", [ECT], curve).matches).toBe(true);
    expect(compared({ ...NO_PART, newOhms: "2k5", newTemperature: "80 °C" }, "ect/sensor", [ECT], curve).outside).toBe(true);
  });
  it("says old beside new and new beside its twin, and judges neither", () => {
    const { beside, part } = compared({ ...NO_PART, oldOhms: "OL", newOhms: "24", twinOhms: "23.6", oldTemperature: "20 °C" }, "purge/coil", [PURGE]);
    expect(beside).toEqual(["Old OL, new 24.0 Ω.", "Twin 23.6 Ω, new 24.0 Ω. Alike."]);
    expect(part).toMatchObject({ oldOhms: "OL", newOhms: 24, twinOhms: 23.6, oldTemperature: 20 });
    expect(compared({ ...NO_PART, newOhms: "24", twinOhms: "12" }, "purge/coil", [PURGE]).beside[0]).toMatch(/differ by 100 %/u);
  });
  it("keeps what was written of seal and torque, and nothing of what was not", () => {
    const { part } = compared({ ...NO_PART, number: " 77-1 ", torque: "20 Nm", torqueSource: "book, page 4" }, "purge/coil", [PURGE]);
    expect(part).toEqual({ number: "77-1", torque: "20 Nm", torqueSource: "book, page 4", source: "original", shape: true });
  });
});

describe("a repair of wires", () => {
  it("is what was said of them, nothing where nothing was", () => {
    expect(wiringOf(NO_WIRING)).toBeUndefined();
    expect(wiringOf({ ...NO_WIRING, stretch: "C2 to sensor", wires: "2", how: "spliced", routing: " above the bracket " })).toEqual({
      stretch: "C2 to sensor",
      wires: 2,
      how: "spliced",
      routing: "above the bracket",
    });
    expect(wiringOf({ ...NO_WIRING, wires: "two", sleeve: "braid" })).toEqual({ sleeve: "braid" });
  });
});
