import fc from "fast-check";
import { buildModel } from "../circuit";
import { simulateReading } from "../instruments";
import {
  altitudeOf,
  averageVolts,
  barometricKPa,
  batteryVerdict,
  betaCelsius,
  betaOf,
  betaOhms,
  bypassVolts,
  chargePercent,
  dividerLowerOhms,
  dividerVolts,
  dutyOfAverage,
  hiddenResistance,
  innerOhms,
  leastCrankingVolts,
  loadAt,
  ohmsOfDrop,
  ratiometricVolts,
  rpmOfHertz,
  steinhartHartCelsius,
  steinhartHartOf,
  steinhartHartOhms,
  toothHertz,
  transitionsPerTurn,
  windingOhmsAt,
} from "./index";

const real = (min: number, max: number) => fc.double({ min, max, noNaN: true });

describe("dividers", () => {
  it("go both ways", () => {
    fc.assert(
      fc.property(real(1, 16), real(50, 1e6), real(1, 1e6), (supply, upper, lower) => {
        const { value } = dividerVolts(supply, upper, lower);
        expect(Math.abs(dividerLowerOhms(supply, upper, value).value - lower)).toBeLessThan(1e-6 * lower);
      }),
    );
  });
  it("hold their value inside the band, which opens with the tolerance", () => {
    const narrow = dividerVolts(5, 2200, 2700, 0.01);
    const wide = dividerVolts(5, 2200, 2700, 0.05);
    expect(narrow.low).toBeLessThan(narrow.value);
    expect(wide.low).toBeLessThan(narrow.low);
    expect(wide.high).toBeGreaterThan(narrow.high);
    const back = dividerLowerOhms(5, 2200, 2.755, 0.02);
    expect(back.low).toBeLessThan(2700);
    expect(back.high).toBeGreaterThan(2700);
  });
  it("are what the circuit's own network gives", () => {
    const model = buildModel([{ id: "x", family: "thermistor-2w" }]);
    const shown = simulateReading(model, { meter: "scan", red: "sig@module", setup: { truth: { temperature: 20 } } }, [], "m") as number;
    expect(Math.abs(shown - dividerVolts(5, 2200, 2700).value)).toBeLessThan(0.005);
  });
  it("tell what a bypass should show", () => {
    const bypass = bypassVolts(5, 2200, 0, 4700, 5);
    expect(bypass.volts).toBeCloseTo((5 * 4700) / 6900, 9);
    expect(bypass.percent).toBeCloseTo((100 * 4700) / 6900, 9);
    expect(bypassVolts(0, 220_000, 5, 0, 5).percent).toBeCloseTo(100, 9);
  });
  it("correct for a low reference", () => {
    expect(ratiometricVolts(2.5, 5, 4.9)).toBeCloseTo(2.45, 9);
  });
  it("show how resistance hides and which load reveals it", () => {
    const { hiddenShare, loadOhms } = hiddenResistance(10_000);
    expect(hiddenShare).toBeLessThan(0.0011);
    expect(10_000 / (10_000 + loadOhms)).toBeCloseTo(0.1, 9);
    expect(ohmsOfDrop(0.3, 0.25)).toBeCloseTo(1.2, 9);
  });
  it.each([
    () => dividerVolts(5, -1, 10),
    () => dividerLowerOhms(5, 2200, 5.2),
    () => ohmsOfDrop(1, 0),
    () => ratiometricVolts(1, 0, 5),
    () => hiddenResistance(10, 1.5),
    () => bypassVolts(5, 0, 0, 100, 5),
  ])("refuse what cannot be (%#)", (impossible) => {
    expect(impossible).toThrow(RangeError);
  });
});

describe("temperature", () => {
  const cold = { degC: 0, ohms: 6700 };
  const warm = { degC: 40, ohms: 1210 };
  const hot = { degC: 100, ohms: 177 };
  it("by Beta goes through both points and back", () => {
    const beta = betaOf(cold, warm);
    expect(beta).toBeGreaterThan(3000);
    expect(betaOhms(cold, beta, 40)).toBeCloseTo(1210, 6);
    fc.assert(fc.property(real(-40, 140), (degC) => expect(betaCelsius(cold, beta, betaOhms(cold, beta, degC))).toBeCloseTo(degC, 8)));
  });
  it("by Steinhart-Hart goes through all three points and back", () => {
    const law = steinhartHartOf([cold, warm, hot]);
    for (const { degC, ohms } of [cold, warm, hot]) {
      expect(steinhartHartCelsius(law, ohms)).toBeCloseTo(degC, 6);
      expect(steinhartHartOhms(law, degC) / ohms).toBeCloseTo(1, 6);
    }
    fc.assert(fc.property(real(-20, 120), (degC) => expect(steinhartHartCelsius(law, steinhartHartOhms(law, degC))).toBeCloseTo(degC, 6)));
  });
  it("moves a copper winding by about four tenths of a percent a kelvin", () => {
    expect(windingOhmsAt(10, 20, 30)).toBeCloseTo(10.393, 3);
    expect(windingOhmsAt(windingOhmsAt(10, 20, 95), 95, 20)).toBeCloseTo(10, 9);
    expect(loadAt(12, 6)).toEqual({ amps: 2, watts: 24 });
  });
  it("refuses points that tell nothing", () => {
    expect(() => betaOf(cold, cold)).toThrow(RangeError);
    expect(() => steinhartHartOf([cold, cold, hot])).toThrow(RangeError);
    expect(() => betaCelsius(cold, 3500, 0)).toThrow(RangeError);
  });
});

describe("air, pulses, battery", () => {
  it("pressure and altitude go both ways, whatever the weather", () => {
    fc.assert(fc.property(real(0, 4000), real(97, 104), (metres, sea) => expect(altitudeOf(barometricKPa(metres, sea), sea)).toBeCloseTo(metres, 4)));
    expect(barometricKPa(0)).toBeCloseTo(101.325, 6);
    expect(() => barometricKPa(20_000)).toThrow(RangeError);
  });
  it("average and duty go both ways", () => {
    expect(averageVolts(0, 5, 10)).toBeCloseTo(0.5, 9);
    fc.assert(fc.property(real(1, 99), (percent) => expect(dutyOfAverage(0.2, 4.9, averageVolts(0.2, 4.9, percent))).toBeCloseTo(percent, 8)));
  });
  it("count teeth on crank and cam", () => {
    expect(toothHertz(60, 2, 600)).toEqual({ mean: 580, withinRow: 600 });
    expect(toothHertz(60, 2, 600, "cam").mean).toBeCloseTo(290, 9);
    expect(rpmOfHertz(580, 60, 2)).toBeCloseTo(600, 9);
    expect(transitionsPerTurn(36, 1)).toBe(70);
    expect(() => toothHertz(4, 4, 800)).toThrow(RangeError);
  });
  it("judge a battery by rest voltage, dip and rating", () => {
    expect(chargePercent(12.65).value).toBeCloseTo(100, 6);
    expect(chargePercent(12.24).value).toBeCloseTo(50, 6);
    expect(chargePercent(11).value).toBe(0);
    expect(chargePercent(12.4, 0).value).toBeGreaterThan(chargePercent(12.4).value);
    expect(innerOhms(12.5, 10.5, 200)).toBeCloseTo(0.01, 9);
    expect(leastCrankingVolts(25)).toBe(9.6);
    expect(leastCrankingVolts(-18)).toBeLessThan(9);
    expect(batteryVerdict(560, 600, 12.6).verdict).toBe("fit");
    expect(batteryVerdict(300, 600, 12.6).verdict).toBe("replace");
    expect(batteryVerdict(300, 600, 12.0).verdict).toBe("recharge-and-retest");
  });
});
