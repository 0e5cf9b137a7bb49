import { bypassVolts, dividerLowerOhms, dividerVolts, hiddenResistance, loadAt, ohmsOfDrop, ratiometricVolts, windingOhmsAt } from "../arithmetic";
import { at, type Calculator } from "./calculator";

const OHMS_LAW = "Ohm's law";

export const DIVIDER: Calculator = {
  id: "divider",
  title: "Divider",
  about: "A pull-up resistor and a sensor to ground: the volts of the signal, or any of the others.",
  formula: "Vsig = Vsupply × R / (R + Rpull)",
  source: `${OHMS_LAW}; two resistors in series carry one current`,
  along: "sensor",
  fields: [
    { id: "supply", title: "Supply", unit: "V", usual: 5, least: 0 },
    { id: "pull", title: "Pull-up", unit: "ohm", usual: 2200, least: 0, tolerant: true },
    { id: "sensor", title: "Sensor to ground", unit: "ohm", usual: 2000, least: 0, tolerant: true },
    { id: "signal", title: "Signal", unit: "V", usual: null, least: 0 },
  ],
  solve: {
    signal: (given) => dividerVolts(at(given, "supply"), at(given, "pull"), at(given, "sensor")).value,
    sensor: (given) => dividerLowerOhms(at(given, "supply"), at(given, "pull"), at(given, "signal")).value,
    pull: (given) => {
      const [supply, sensor, signal] = [at(given, "supply"), at(given, "sensor"), at(given, "signal")];
      if (!(signal > 0 && signal <= supply)) throw new RangeError(`${signal} V is not above 0 and up to the supply of ${supply} V`);
      return (sensor * (supply - signal)) / signal;
    },
    supply: (given) => {
      if (at(given, "sensor") === 0) throw new RangeError("a sensor of 0 ohm pulls every supply down to 0 V");
      return (at(given, "signal") * (at(given, "sensor") + at(given, "pull"))) / at(given, "sensor");
    },
  },
  also: (values) => [
    { title: "Current", value: at(values, "supply") / Math.max(1e-9, at(values, "pull") + at(values, "sensor")), unit: "A" },
    { title: "Signal, of the supply", value: (100 * at(values, "signal")) / at(values, "supply"), unit: "%" },
  ],
};

export const BYPASS: Calculator = {
  id: "bypass",
  title: "Bypass",
  about: "A jumper or a resistor in place of the sensor: what the module should then show.",
  formula: "V = (Vpull × R + Vto × Rpull) / (R + Rpull)",
  source: `${OHMS_LAW} at the signal pin`,
  along: "substitute",
  fields: [
    { id: "pullTo", title: "Module's resistor goes to", unit: "V", usual: 5, least: 0 },
    { id: "pull", title: "Module's resistor", unit: "ohm", usual: 2200, least: 1, tolerant: true },
    { id: "to", title: "Substitute goes to", unit: "V", usual: 0, least: 0 },
    { id: "substitute", title: "Substitute", unit: "ohm", usual: 1000, least: 0, tolerant: true },
    { id: "volts", title: "Module shows", unit: "V", usual: null, least: 0 },
  ],
  solve: {
    volts: (given) => bypassVolts(at(given, "pullTo"), at(given, "pull"), at(given, "to"), at(given, "substitute"), 5).volts,
    substitute: (given) => {
      const [pullTo, to, volts] = [at(given, "pullTo"), at(given, "to"), at(given, "volts")];
      if (volts === pullTo) throw new RangeError("the full pull voltage means that nothing is connected");
      return (at(given, "pull") * (to - volts)) / (volts - pullTo);
    },
    pull: (given) => {
      const [pullTo, to, volts] = [at(given, "pullTo"), at(given, "to"), at(given, "volts")];
      if (volts === to) throw new RangeError("the signal at the substitute's own level says nothing about the module's resistor");
      return (at(given, "substitute") * (volts - pullTo)) / (to - volts);
    },
  },
  also: (values) => [{ title: "Of 5 V full scale", value: (100 * at(values, "volts")) / 5, unit: "%" }],
};

export const RATIOMETRIC: Calculator = {
  id: "ratiometric",
  title: "Ratiometric correction",
  about: "A sensor on a reference that is a little off is not wrong: its output follows the reference.",
  formula: "V = Vspec × Vref / Vref,spec",
  source: "a ratiometric output is a share of its reference",
  along: "reference",
  fields: [
    { id: "specified", title: "Specified output", unit: "V", usual: 2.5, least: 0 },
    { id: "specifiedReference", title: "at a reference of", unit: "V", usual: 5, least: 0.1 },
    { id: "reference", title: "Reference measured", unit: "V", usual: 4.9, least: 0.1 },
    { id: "shown", title: "Output to expect", unit: "V", usual: null, least: 0 },
  ],
  solve: {
    shown: (given) => ratiometricVolts(at(given, "specified"), at(given, "specifiedReference"), at(given, "reference")),
    specified: (given) => ratiometricVolts(at(given, "shown"), at(given, "reference"), at(given, "specifiedReference")),
    reference: (given) => {
      if (at(given, "specified") === 0) throw new RangeError("an output of 0 V stays 0 V at every reference");
      return (at(given, "shown") * at(given, "specifiedReference")) / at(given, "specified");
    },
  },
};

export const DROP: Calculator = {
  id: "drop",
  title: "Drop and resistance",
  about: "What drops along a wire or a contact while a current flows, and the resistance behind it.",
  formula: "R = V / I",
  source: OHMS_LAW,
  along: "amps",
  fields: [
    { id: "volts", title: "Drop", unit: "V", usual: 0.4, least: 0 },
    { id: "amps", title: "Current", unit: "A", usual: 2, least: 1e-9 },
    { id: "ohms", title: "Resistance", unit: "ohm", usual: null, least: 0 },
  ],
  solve: {
    ohms: (given) => ohmsOfDrop(at(given, "volts"), at(given, "amps")),
    volts: (given) => at(given, "amps") * at(given, "ohms"),
    amps: (given) => {
      if (at(given, "ohms") === 0) throw new RangeError("0 ohm drops nothing at any current");
      return at(given, "volts") / at(given, "ohms");
    },
  },
  also: (values) => [{ title: "Heat in it", value: at(values, "volts") * at(values, "amps"), unit: "W" }],
};

export const HIDDEN: Calculator = {
  id: "hidden-resistance",
  title: "Hidden resistance",
  about: "A bad contact that a meter does not see: what drops across it under a load, and the load that shows it.",
  formula: "Vdrop = Vsupply × R / (R + Rload)",
  source: `${OHMS_LAW}; a meter is a load of 10 megohm`,
  along: "load",
  fields: [
    { id: "supply", title: "Supply", unit: "V", usual: 12, least: 0.1 },
    { id: "series", title: "Hidden resistance", unit: "ohm", usual: 20, least: 0 },
    { id: "load", title: "Load", unit: "ohm", usual: 29, least: 0.01 },
    { id: "drop", title: "Drop under the load", unit: "V", usual: null, least: 0 },
  ],
  solve: {
    drop: (given) => dividerVolts(at(given, "supply"), at(given, "load"), at(given, "series")).value,
    series: (given) => dividerLowerOhms(at(given, "supply"), at(given, "load"), at(given, "drop")).value,
    load: (given) => hiddenResistance(at(given, "series"), at(given, "drop") / at(given, "supply")).loadOhms,
  },
  also: (values) => [{ title: "Drop a meter alone would see", value: at(values, "supply") * hiddenResistance(at(values, "series")).hiddenShare, unit: "V" }],
};

export const WINDING: Calculator = {
  id: "winding",
  title: "Winding and temperature",
  about: "A copper winding measured hot, brought to the temperature of the specification, or the other way.",
  formula: "R2 = R1 × (1 + 0.00393 (T2 - 20)) / (1 + 0.00393 (T1 - 20))",
  source: "linear law of copper, 0.393 % a kelvin at 20 °C; good to a percent up to 150 °C",
  along: "toDegC",
  fields: [
    { id: "ohms", title: "Resistance", unit: "ohm", usual: 12, least: 0 },
    { id: "fromDegC", title: "measured at", unit: "degC", usual: 80, least: -60, most: 200 },
    { id: "toDegC", title: "Wanted at", unit: "degC", usual: 20, least: -60, most: 200 },
    { id: "there", title: "Resistance there", unit: "ohm", usual: null, least: 0 },
  ],
  solve: {
    there: (given) => windingOhmsAt(at(given, "ohms"), at(given, "fromDegC"), at(given, "toDegC")),
    ohms: (given) => windingOhmsAt(at(given, "there"), at(given, "toDegC"), at(given, "fromDegC")),
    toDegC: (given) => {
      if (at(given, "ohms") === 0) throw new RangeError("0 ohm has no temperature");
      const perKelvin = windingOhmsAt(1, 20, 21) - 1;
      return ((at(given, "there") / at(given, "ohms")) * (1 + perKelvin * (at(given, "fromDegC") - 20)) - 1) / perKelvin + 20;
    },
  },
};

export const LOAD: Calculator = {
  id: "load",
  title: "Heater, coil, lamp",
  about: "Power and current of a load at a voltage, and the resistance it has while it works.",
  formula: "P = V² / R, I = V / R",
  source: OHMS_LAW,
  along: "volts",
  fields: [
    { id: "volts", title: "Supply", unit: "V", usual: 13.5, least: 0.01 },
    { id: "ohms", title: "Resistance", unit: "ohm", usual: 9, least: 1e-6, tolerant: true },
    { id: "watts", title: "Power", unit: "W", usual: null, least: 1e-9 },
  ],
  solve: {
    watts: (given) => loadAt(at(given, "volts"), at(given, "ohms")).watts,
    ohms: (given) => at(given, "volts") ** 2 / at(given, "watts"),
    volts: (given) => Math.sqrt(at(given, "watts") * at(given, "ohms")),
  },
  also: (values) => [{ title: "Current", value: loadAt(at(values, "volts"), at(values, "ohms")).amps, unit: "A" }],
};

/** Ohm millimetres squared a metre of copper at 20 degC. */
const COPPER_OHM_MM2 = 0.01724;
const FUSES = [2, 3, 5, 7.5, 10, 15, 20, 25, 30, 40, 50, 60, 80, 100];
/** A fuse carries this share of its rating for good. */
const FUSE_SHARE = 0.75;

export const WIRE: Calculator = {
  id: "wire",
  title: "Wire and fuse",
  about: "What drops along a copper wire, how thick it has to be, and the fuse a steady current needs.",
  formula: "V = 0.0172 × length × I / area, one way; a fuse is loaded with three quarters of its rating",
  source: "resistivity of copper at 20 °C; usual rule for blade fuses",
  along: "area",
  fields: [
    { id: "amps", title: "Current", unit: "A", usual: 8, least: 0.001 },
    { id: "length", title: "Length, one way", unit: "m", usual: 4, least: 0.01 },
    { id: "area", title: "Area of the copper", unit: "mm2", usual: 1.5, least: 0.01 },
    { id: "drop", title: "Drop", unit: "V", usual: null, least: 1e-6 },
  ],
  solve: {
    drop: (given) => (COPPER_OHM_MM2 * at(given, "length") * at(given, "amps")) / at(given, "area"),
    area: (given) => (COPPER_OHM_MM2 * at(given, "length") * at(given, "amps")) / at(given, "drop"),
    length: (given) => (at(given, "drop") * at(given, "area")) / (COPPER_OHM_MM2 * at(given, "amps")),
    amps: (given) => (at(given, "drop") * at(given, "area")) / (COPPER_OHM_MM2 * at(given, "length")),
  },
  also: (values) => {
    const fuse = FUSES.find((rating) => rating * FUSE_SHARE >= at(values, "amps"));
    const gauge = 36 - 39 * (Math.log((2 * Math.sqrt(at(values, "area") / Math.PI)) / 0.127) / Math.log(92));
    return [
      ...(fuse === undefined ? [] : [{ title: "Fuse, at least", value: fuse, unit: "A" }]),
      { title: "Wire gauge (AWG)", value: Math.round(gauge), unit: "" },
    ];
  },
};
