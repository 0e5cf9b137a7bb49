import fc from "fast-check";
import { gainText, minutesText, PRESSURE_UNITS, showIn, shownUnit, shownValue, TEMPERATURE_UNITS, typedValue, unitsAsWritten } from "./display";

describe("units of this device", () => {
  afterEach(() => showIn({ temperature: "degC", pressure: "kPa" }));

  it("are the base units until somebody chooses others", () => {
    expect([shownUnit("degC"), shownUnit("kPa"), shownUnit("V")]).toEqual(["degC", "kPa", "V"]);
    expect(shownValue(101.3, "kPa")).toBe(101.3);
  });

  it("show and take the same physical value", () => {
    showIn({ temperature: "degF", pressure: "psi" });
    expect(shownValue(100, "degC")).toBeCloseTo(212, 6);
    expect(shownValue(-40, "degC")).toBeCloseTo(-40, 6);
    expect(shownValue(101.325, "kPa")).toBeCloseTo(14.696, 3);
    expect(typedValue(212, "degC")).toBeCloseTo(100, 3);
    showIn({ temperature: "degC", pressure: "inHg" });
    expect(shownValue(101.325, "kPa")).toBeCloseTo(29.92, 2);
  });

  it("come back from every unit, and leave other quantities alone", () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...TEMPERATURE_UNITS),
        fc.constantFrom(...PRESSURE_UNITS),
        fc.double({ min: -60, max: 400, noNaN: true }),
        (temperature, pressure, value) => {
          showIn({ temperature, pressure });
          for (const base of ["degC", "kPa"]) expect(Math.abs(typedValue(shownValue(value, base), base) - value)).toBeLessThan(1e-3 * (1 + Math.abs(value)));
          expect(shownValue(value, "ohm")).toBe(value);
          expect(typedValue(value, "V")).toBe(value);
        },
      ),
    );
  });
});

it("units in a text are written as people write them", () => {
  expect(unitsAsWritten("intake air 14 degC, 4.7 kohm, published resistance, ohm; ohms law, degCx")).toBe(
    "intake air 14 °C, 4.7 kΩ, published resistance, Ω; ohms law, degCx",
  );
});

describe("times and gains in words", () => {
  it.each([
    [0.01, "5 s"],
    [0.3, "20 s"],
    [0.9, "55 s"],
    [0.96, "1 min"],
    [2.54, "2.5 min"],
    [12.4, "12 min"],
  ])("%p minutes are %p", (minutes, text) => expect(minutesText(minutes)).toBe(text));
  it.each([
    [1.2, "much"],
    [0.3, "some"],
    [0, "little"],
  ])("%p bits are %p", (bits, text) => expect(gainText(bits)).toBe(text));
});
