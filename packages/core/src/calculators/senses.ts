import {
  altitudeOf,
  averageVolts,
  barometricKPa,
  betaCelsius,
  betaOf,
  betaOhms,
  dutyOfAverage,
  rpmOfHertz,
  steinhartHartCelsius,
  steinhartHartOf,
  steinhartHartOhms,
  toothHertz,
} from "../arithmetic";
import { at, type Calculator, type CalculatorValues } from "./calculator";

export const THERMISTOR: Calculator = {
  id: "thermistor",
  title: "Thermistor, two points",
  about: "Ohms and degrees of a thermistor from one known point and its Beta, in any direction.",
  formula: "R = R0 × exp(B (1/T - 1/T0)), T in kelvin",
  source: "two-point (Beta) model; half a kelvin between its points, some kelvin far outside them",
  along: "degC",
  fields: [
    { id: "ohms0", title: "Known resistance", unit: "ohm", usual: 2500, least: 0.001, tolerant: true },
    { id: "degC0", title: "at", unit: "degC", usual: 20, least: -80, most: 300 },
    { id: "beta", title: "Beta, kelvin", unit: "", usual: 3500, least: 100, most: 10_000 },
    { id: "degC", title: "Temperature", unit: "degC", usual: 80, least: -80, most: 300 },
    { id: "ohms", title: "Resistance there", unit: "ohm", usual: null, least: 0.001 },
  ],
  solve: {
    ohms: (given) => betaOhms({ ohms: at(given, "ohms0"), degC: at(given, "degC0") }, at(given, "beta"), at(given, "degC")),
    degC: (given) => betaCelsius({ ohms: at(given, "ohms0"), degC: at(given, "degC0") }, at(given, "beta"), at(given, "ohms")),
    beta: (given) => betaOf({ ohms: at(given, "ohms0"), degC: at(given, "degC0") }, { ohms: at(given, "ohms"), degC: at(given, "degC") }),
    ohms0: (given) => betaOhms({ ohms: at(given, "ohms"), degC: at(given, "degC") }, at(given, "beta"), at(given, "degC0")),
  },
};

const threePoints = (given: CalculatorValues) =>
  steinhartHartOf([
    { degC: at(given, "degC1"), ohms: at(given, "ohms1") },
    { degC: at(given, "degC2"), ohms: at(given, "ohms2") },
    { degC: at(given, "degC3"), ohms: at(given, "ohms3") },
  ]);

export const THERMISTOR_THREE: Calculator = {
  id: "thermistor-three",
  title: "Thermistor, three points",
  about: "The curve through three points of the chart: ohms from degrees and degrees from ohms.",
  formula: "1/T = A + B ln R + C (ln R)³, T in kelvin",
  source: "Steinhart and Hart, 1968; a few hundredths of a kelvin between its points",
  along: "degC",
  fields: [
    { id: "degC1", title: "First point", unit: "degC", usual: 0, least: -80, most: 300 },
    { id: "ohms1", title: "Resistance", unit: "ohm", usual: 5900, least: 0.001 },
    { id: "degC2", title: "Second point", unit: "degC", usual: 40, least: -80, most: 300 },
    { id: "ohms2", title: "Resistance", unit: "ohm", usual: 1200, least: 0.001 },
    { id: "degC3", title: "Third point", unit: "degC", usual: 100, least: -80, most: 300 },
    { id: "ohms3", title: "Resistance", unit: "ohm", usual: 190, least: 0.001 },
    { id: "degC", title: "Temperature", unit: "degC", usual: 80, least: -80, most: 300 },
    { id: "ohms", title: "Resistance there", unit: "ohm", usual: null, least: 0.001 },
  ],
  solve: {
    ohms: (given) => steinhartHartOhms(threePoints(given), at(given, "degC")),
    degC: (given) => steinhartHartCelsius(threePoints(given), at(given, "ohms")),
  },
};

export const ATMOSPHERE: Calculator = {
  id: "atmosphere",
  title: "Air pressure",
  about: "The pressure of the air at a height, with today's weather, and the height from a pressure.",
  formula: "P = Psea × (1 - 2.25577e-5 h)^5.25588",
  source: "ICAO standard atmosphere, up to 11,000 m; weather reports reduce to sea level by the same law",
  along: "metres",
  fields: [
    { id: "metres", title: "Height", unit: "m", usual: 500, least: -500, most: 11_000 },
    { id: "sea", title: "Sea-level pressure reported", unit: "kPa", usual: 101.325, least: 85, most: 110 },
    { id: "pressure", title: "Pressure there", unit: "kPa", usual: null, least: 15, most: 120 },
  ],
  solve: {
    pressure: (given) => barometricKPa(at(given, "metres"), at(given, "sea")),
    metres: (given) => altitudeOf(at(given, "pressure"), at(given, "sea")),
    sea: (given) => (101.325 * at(given, "pressure")) / barometricKPa(at(given, "metres")),
  },
};

const line = (given: CalculatorValues): { slope: number; offset: number } => {
  const width = at(given, "highKPa") - at(given, "lowKPa");
  if (width === 0) throw new RangeError("the two points have the same pressure");
  const slope = (at(given, "highShown") - at(given, "lowShown")) / width;
  return { slope, offset: at(given, "lowShown") - slope * at(given, "lowKPa") };
};

export const PRESSURE_SENSOR: Calculator = {
  id: "pressure-sensor",
  title: "Pressure sensor at a place",
  about: "Key on, engine off, a manifold sensor sees the air: the volts or hertz it should show at a height.",
  formula: "a straight line through two points of the chart, at the air pressure of the place",
  source: "ICAO standard atmosphere; transfer line of the sheet",
  along: "metres",
  fields: [
    { id: "lowKPa", title: "Chart: at", unit: "kPa", usual: 20, least: 0 },
    { id: "lowShown", title: "it shows (V or Hz)", unit: "", usual: 0.79 },
    { id: "highKPa", title: "Chart: at", unit: "kPa", usual: 105, least: 0 },
    { id: "highShown", title: "it shows (V or Hz)", unit: "", usual: 4.75 },
    { id: "metres", title: "Height", unit: "m", usual: 1500, least: -500, most: 11_000 },
    { id: "sea", title: "Sea-level pressure reported", unit: "kPa", usual: 101.325, least: 85, most: 110 },
    { id: "shown", title: "It should show (V or Hz)", unit: "", usual: null },
  ],
  solve: {
    shown: (given) => {
      const { slope, offset } = line(given);
      return offset + slope * barometricKPa(at(given, "metres"), at(given, "sea"));
    },
    metres: (given) => {
      const { slope, offset } = line(given);
      if (slope === 0) throw new RangeError("a sensor that always shows the same does not tell a height");
      return altitudeOf((at(given, "shown") - offset) / slope, at(given, "sea"));
    },
  },
  also: (values) => [{ title: "Air pressure there", value: barometricKPa(at(values, "metres"), at(values, "sea")), unit: "kPa" }],
};

export const AVERAGE: Calculator = {
  id: "average",
  title: "Average of pulses",
  about: "What an averaging meter shows of pulses, and the share of the time they are high from what it shows.",
  formula: "V = low + duty × (high - low)",
  source: "mean of a rectangular wave",
  along: "duty",
  fields: [
    { id: "low", title: "Low level", unit: "V", usual: 0.1 },
    { id: "high", title: "High level", unit: "V", usual: 5 },
    { id: "duty", title: "Time high", unit: "%", usual: 10, least: 0, most: 100 },
    { id: "average", title: "Meter shows", unit: "V", usual: null },
  ],
  solve: {
    average: (given) => averageVolts(at(given, "low"), at(given, "high"), at(given, "duty")),
    duty: (given) => dutyOfAverage(at(given, "low"), at(given, "high"), at(given, "average")),
    high: (given) => {
      if (at(given, "duty") === 0) throw new RangeError("a signal that is never high does not tell its high level");
      return at(given, "low") + (at(given, "average") - at(given, "low")) / (at(given, "duty") / 100);
    },
    low: (given) => {
      const share = at(given, "duty") / 100;
      if (share === 1) throw new RangeError("a signal that is always high does not tell its low level");
      return (at(given, "average") - share * at(given, "high")) / (1 - share);
    },
  },
};

export const TEETH: Calculator = {
  id: "teeth",
  title: "Teeth, speed and rate",
  about: "Pulses a second of a toothed wheel, and the engine speed from them. A cam turns half as often as the crank.",
  formula: "Hz = (teeth - missing) × turns × rev/min / 60",
  source: "counting",
  along: "rpm",
  fields: [
    { id: "teeth", title: "Teeth, the missing ones counted", unit: "", usual: 60, least: 1, most: 1000 },
    { id: "missing", title: "of which are missing", unit: "", usual: 2, least: 0, most: 20 },
    { id: "turns", title: "Turns for each of the crank (cam 0.5)", unit: "", usual: 1, least: 0.1, most: 4 },
    { id: "rpm", title: "Engine speed", unit: "rpm", usual: 800, least: 0, most: 20_000 },
    { id: "hertz", title: "Pulses a second", unit: "Hz", usual: null, least: 0 },
  ],
  solve: {
    hertz: (given) => toothHertz(at(given, "teeth"), at(given, "missing"), at(given, "rpm")).mean * at(given, "turns"),
    rpm: (given) => rpmOfHertz(at(given, "hertz"), at(given, "teeth"), at(given, "missing")) / at(given, "turns"),
    teeth: (given) => {
      if (at(given, "rpm") === 0) throw new RangeError("a wheel that stands tells nothing about its teeth");
      return (60 * at(given, "hertz")) / (at(given, "rpm") * at(given, "turns")) + at(given, "missing");
    },
  },
  also: (values) => {
    const { withinRow } = toothHertz(at(values, "teeth"), at(values, "missing"), at(values, "rpm"));
    return [
      { title: "Changes of level a turn of the crank", value: 2 * (at(values, "teeth") - at(values, "missing")) * at(values, "turns"), unit: "" },
      { title: "Crank degrees from tooth to tooth", value: 360 / at(values, "teeth") / at(values, "turns"), unit: "deg" },
      { title: "Rate within the row of teeth", value: withinRow * at(values, "turns"), unit: "Hz" },
    ];
  },
};

export const DEGREES: Calculator = {
  id: "degrees",
  title: "Time and crank degrees",
  about: "How far the crank turns in a time: an edge on the screen in degrees, or degrees in milliseconds.",
  formula: "degrees = 6 × rev/min × seconds",
  source: "a turn is 360 degrees, a minute 60 seconds",
  along: "rpm",
  fields: [
    { id: "rpm", title: "Engine speed", unit: "rpm", usual: 800, least: 0.1, most: 20_000 },
    { id: "ms", title: "Time, milliseconds", unit: "ms", usual: 5, least: 0 },
    { id: "degrees", title: "Crank degrees", unit: "deg", usual: null, least: 0 },
  ],
  solve: {
    degrees: (given) => (6 * at(given, "rpm") * at(given, "ms")) / 1000,
    ms: (given) => (1000 * at(given, "degrees")) / (6 * at(given, "rpm")),
    rpm: (given) => {
      if (at(given, "ms") === 0) throw new RangeError("in no time nothing turns");
      return (1000 * at(given, "degrees")) / (6 * at(given, "ms"));
    },
  },
};
