import { batteryVerdict, chargePercent, innerOhms, leastCrankingVolts } from "../arithmetic";
import { at, type Calculator } from "./calculator";

/** Rest voltages between which a charge is read. */
const [EMPTY_VOLTS, FULL_VOLTS] = [11.5, 13];
const HALVINGS = 60;

/** The voltage at which a battery shows a charge: the table read backwards, by halving. */
function restVoltsAt(percent: number, degC: number): number {
  let [low, high] = [EMPTY_VOLTS, FULL_VOLTS];
  for (let step = 0; step < HALVINGS; step += 1) {
    const middle = 0.5 * (low + high);
    if (chargePercent(middle, degC).value < percent) low = middle;
    else high = middle;
  }
  return 0.5 * (low + high);
}

export const CHARGE: Calculator = {
  id: "charge",
  title: "Battery at rest",
  about: "How full a 12 V lead battery is from its rest voltage, an hour after charging or driving.",
  formula: "table of makers' data at 25 °C, 1.2 mV a kelvin",
  source: "makers' usual table, 11.80 V empty to 12.65 V full",
  along: "volts",
  fields: [
    { id: "volts", title: "Rest voltage", unit: "V", usual: 12.4, least: 9, most: 14 },
    { id: "degC", title: "Temperature", unit: "degC", usual: 20, least: -40, most: 60 },
    { id: "percent", title: "Charge", unit: "%", usual: null, least: 0, most: 100 },
  ],
  solve: {
    percent: (given) => chargePercent(at(given, "volts"), at(given, "degC")).value,
    volts: (given) => {
      // The table ends at both sides: beyond, every voltage shows the same.
      if (at(given, "percent") >= 100 || at(given, "percent") <= 0)
        throw new RangeError("a full or an empty battery may stand at any voltage beyond the table");
      return restVoltsAt(at(given, "percent"), at(given, "degC"));
    },
  },
  also: (values) => {
    const { low, high } = chargePercent(at(values, "volts"), at(values, "degC"));
    return [
      { title: "Charge, at least", value: low, unit: "%" },
      { title: "Charge, at most", value: high, unit: "%" },
      { title: "Least volts while cranking", value: leastCrankingVolts(at(values, "degC")), unit: "V" },
    ];
  },
};

export const RATED: Calculator = {
  id: "rated",
  title: "Cranking current against rating",
  about: "What a battery tester measured against what the battery is rated for: under 80 % it is charged and tested again.",
  formula: "percent = measured / rated",
  source: "usual rule: 80 % is fit; under 60 % with a good charge it is worn out",
  along: "measured",
  fields: [
    { id: "measured", title: "Measured", unit: "A", usual: 430, least: 0 },
    { id: "rated", title: "Rated", unit: "A", usual: 540, least: 1 },
    { id: "percent", title: "Of the rating", unit: "%", usual: null, least: 0 },
  ],
  solve: {
    percent: (given) => batteryVerdict(at(given, "measured"), at(given, "rated"), FULL_VOLTS).percent,
    measured: (given) => (at(given, "percent") * at(given, "rated")) / 100,
    rated: (given) => {
      if (at(given, "percent") === 0) throw new RangeError("nothing measured tells nothing about the rating");
      return (100 * at(given, "measured")) / at(given, "percent");
    },
  },
};

export const INNER: Calculator = {
  id: "inner",
  title: "Battery's own resistance",
  about: "How far the battery gives way to the starter: its resistance with its clamps, from the dip.",
  formula: "R = (Vrest - Vload) / I",
  source: "Ohm's law",
  along: "amps",
  fields: [
    { id: "rest", title: "At rest", unit: "V", usual: 12.5, least: 0 },
    { id: "loaded", title: "While cranking", unit: "V", usual: 10.6, least: 0 },
    { id: "amps", title: "Starter's current", unit: "A", usual: 160, least: 0.1 },
    { id: "ohms", title: "Resistance", unit: "ohm", usual: null, least: 0 },
  ],
  solve: {
    ohms: (given) => innerOhms(at(given, "rest"), at(given, "loaded"), at(given, "amps")),
    loaded: (given) => at(given, "rest") - at(given, "amps") * at(given, "ohms"),
    amps: (given) => {
      if (at(given, "ohms") === 0) throw new RangeError("0 ohm gives way to no current");
      return (at(given, "rest") - at(given, "loaded")) / at(given, "ohms");
    },
    rest: (given) => at(given, "loaded") + at(given, "amps") * at(given, "ohms"),
  },
};

export const MONEY: Calculator = {
  id: "money",
  title: "Replace now, or test",
  about: "What fitting the part now loses on average if it is not the one, against what the next test costs.",
  formula: "loss = (1 - chance) × (part + fitting), test = minutes × rate",
  source: "expected value",
  along: "chance",
  fields: [
    { id: "part", title: "Price of the part", unit: "money", usual: 120, least: 0 },
    { id: "fitting", title: "Fitting it, minutes", unit: "min", usual: 40, least: 0 },
    { id: "rate", title: "An hour of work", unit: "money", usual: 90, least: 0 },
    { id: "minutes", title: "The next test, minutes", unit: "min", usual: 5, least: 0 },
    { id: "chance", title: "Chance that it is the part", unit: "%", usual: 70, least: 0, most: 100 },
    { id: "loss", title: "Replacing now loses, on average", unit: "money", usual: null, least: 0 },
  ],
  solve: {
    loss: (given) => (1 - at(given, "chance") / 100) * (at(given, "part") + (at(given, "fitting") / 60) * at(given, "rate")),
    chance: (given) => {
      const all = at(given, "part") + (at(given, "fitting") / 60) * at(given, "rate");
      if (all === 0) throw new RangeError("a part that costs nothing can always be tried");
      return 100 * (1 - at(given, "loss") / all);
    },
  },
  also: (values) => [{ title: "The test costs", value: (at(values, "minutes") / 60) * at(values, "rate"), unit: "money" }],
};
