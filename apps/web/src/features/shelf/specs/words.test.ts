import type { ShelfRecord, SpecLimit } from "@fox-lamp/language";
import { sourceText, specTitle, specValue, vehiclesText } from "./words";

const SOURCE = { kind: "document" as const, title: "Workshop book", edition: "4" };
const LIMIT: SpecLimit = {
  vehicle: { make: "Orrin", model: "Skua", years: [2011, 2016] },
  family: "thermistor-2w",
  meter: "ohms",
  red: "sig@part",
  black: "gnd@part",
  setup: { key: "off", open: ["sensor"], truth: { temperature: { value: 20, within: 1 } } },
  low: 2.3,
  high: 3.1,
  unit: "kohm",
  source: SOURCE,
};
const limit = (over: Partial<SpecLimit> = {}): ShelfRecord => ({ kind: "limit", record: { ...LIMIT, ...over } });

it("a limit says of what, in which state, how much, of which vehicles and from where", () => {
  expect(specTitle(limit())).toMatch(/^Temperature sensor, two wires: Signal .+ to ground .+, ohms, .+unplugged, at 20 °C$/u);
  expect(specValue(limit())).toBe("2.30 to 3.10 kΩ");
  expect(vehiclesText(limit())).toBe("Orrin Skua 2011-2016");
  expect(vehiclesText(limit({ vehicle: {} }))).toBe("any vehicle");
  expect(vehiclesText(limit({ vehicle: { years: [2014, 2014] } }))).toBe("2014");
  expect(sourceText(limit())).toBe("Workshop book 4");
  const { low: _low, high: _high, ...bare } = LIMIT;
  expect(specValue({ kind: "limit", record: { ...bare, nominal: 2.7 } })).toBe("about 2.7 kΩ");
});

it("a position stands once in its title", () => {
  const title = specTitle(limit({ family: "potentiometer-3w", meter: "volts-dc", red: "sig@sensor", setup: { key: "on", truth: { position: 0 } } }));
  expect(title.match(/0 %/gu)).toHaveLength(1);
});

it("a curve, a look-alike and a known reading say what they say", () => {
  const of = { vehicle: {}, family: "thermistor-2w", source: SOURCE };
  const curve: ShelfRecord = {
    kind: "curve",
    record: {
      ...of,
      id: "Coolant",
      kind: "temperature-ohms",
      points: [
        [20, 2500],
        [0, 5900],
      ],
    },
  };
  expect(specTitle(curve)).toBe("Temperature sensor, two wires: Coolant");
  expect(specValue(curve)).toBe("5900 Ω at 0 °C to 2500 Ω at 20 °C");
  const variant: ShelfRecord = {
    kind: "variant",
    record: { ...of, part: "CT-27", ohms: [2450, 2950], degC: 20, teeth: 60, connector: "narrow key", torque: "18 Nm" },
  };
  expect(specValue(variant)).toBe("2.45 to 2.95 kΩ at 20 °C, 60 teeth, narrow key, 18 Nm");
  const known: ShelfRecord = { kind: "known", record: { ...of, meter: "volts-dc", red: "sig@sensor", setup: { key: "on" }, value: 2.76, unit: "V" } };
  expect(specValue(known)).toBe("2.76 V");
  expect(specTitle(known)).toMatch(/Signal at the sensor/u);
});
