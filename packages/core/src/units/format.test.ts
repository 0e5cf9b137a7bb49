import { celsiusFromKelvin, formatPercent, formatQuantity, formatWindow, kelvinFromCelsius, pressureAtAltitude } from ".";

describe("quantities as a meter shows them", () => {
  it.each([
    [4.98, "V", "4.98 V"],
    [12.44, "V", "12.4 V"],
    [0.0083, "V", "8.3 mV"],
    [0, "V", "0 V"],
    [-0.12, "V", "-0.12 V"],
    [0.21, "ohm", "0.2 Ω"],
    [2503, "ohm", "2.50 kΩ"],
    [1.2e6, "ohm", "1.20 MΩ"],
    [0.25, "A", "250 mA"],
    [18.4, "degC", "18 °C"],
    [101.3, "kPa", "101 kPa"],
  ])("%d %s", (value, unit, text) => {
    expect(formatQuantity(value, unit)).toBe(text);
  });
  it("windows share a unit where they can", () => {
    expect(formatWindow(0.48, 0.52, "V")).toBe("0.48 to 0.52 V");
    expect(formatWindow(-0.01, 0.03, "V")).toBe("-10 to 30 mV");
    expect(formatWindow(null, 5, "V")).toBe("up to 5.00 V");
    expect(formatWindow(1e6, null, "ohm")).toBe("over 1.00 MΩ");
    expect(formatWindow(null, null, "V")).toBe("any value");
  });
  it("never call something possible certain or impossible", () => {
    expect(formatPercent(0.9999)).toBe("over 99 %");
    expect(formatPercent(0.0001)).toBe("under 1 %");
    expect(formatPercent(0.614)).toBe("61 %");
    expect(formatPercent(0)).toBe("0 %");
  });
});

describe("conversion", () => {
  it("of temperature and altitude", () => {
    expect(celsiusFromKelvin(kelvinFromCelsius(83))).toBeCloseTo(83, 9);
    expect(pressureAtAltitude(0)).toBeCloseTo(101.325, 6);
    expect(pressureAtAltitude(1500)).toBeCloseTo(84.56, 1);
  });
});
