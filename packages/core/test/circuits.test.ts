import type { Circuit, Measurement, Setup, Value } from "@fox-lamp/language";
import fc from "fast-check";
import { refusalOf } from "../../language/test/refusal";
import { buildModel, type CircuitModel, FAMILIES, interpolate, inverseCurve, thermistorCelsius, thermistorOhms } from "../src/circuit";
import { type Fault, type FaultVariant, faultsOf, type PlacedFault, placeFault } from "../src/faults";
import { measurementDeck, simulateReading } from "../src/instruments";
import { expectHealthy, generateTests, measurementOf } from "../src/procedures";

const ECT: Circuit = { id: "ect", family: "thermistor-2w" };
const TPS: Circuit = { id: "tps", family: "potentiometer-3w" };
const MAP: Circuit = { id: "map", family: "pressure-3w" };

function shows(
  circuit: Circuit,
  measurement: Omit<Measurement, "circuit">,
  faults: { id: string; ohms?: number; severity?: number; direction?: number }[] = [],
): Value | null {
  const model = buildModel([circuit]);
  const known = faultsOf(model);
  return simulateReading(
    model,
    measurement as Measurement,
    faults.map((fault) => placeFault(model, known, fault, "faults[0]")),
    "measurement",
  );
}
const volts = (red: string, black: string, setup: Setup = {}) => ({ meter: "volts-dc" as const, red, black, setup });
const scan = (setup: Setup = {}) => ({ meter: "scan" as const, red: "sig@module", setup });
const ohms = (red: string, black: string, setup: Setup = { key: "off", open: ["sensor"] }) => ({ meter: "ohms" as const, red, black, setup });
const number = (value: Value | null): number => {
  if (typeof value !== "number") throw new Error(`${JSON.stringify(value)} is no number`);
  return value;
};
describe("curves", () => {
  it("lead from temperature to resistance and back", () => {
    const curve = [
      [-40, 64_000],
      [20, 2_700],
      [120, 106],
    ] as const;
    fc.assert(
      fc.property(fc.double({ min: -40, max: 140, noNaN: true }), (degC) => expect(thermistorCelsius(curve, thermistorOhms(curve, degC))).toBeCloseTo(degC, 6)),
    );
    expect(thermistorOhms(curve, 20)).toBeCloseTo(2700, 6);
  });
  it("interpolate both ways", () => {
    const line = [
      [20, 0.5],
      [110, 4.5],
    ] as const;
    expect(interpolate(line, 65)).toBeCloseTo(2.5, 9);
    expect(interpolate(inverseCurve(line), 2.5)).toBeCloseTo(65, 9);
  });
});

describe("a healthy thermistor circuit", () => {
  it("is the divider of pull-up and sensor at any pull-up and temperature", () => {
    fc.assert(
      fc.property(fc.double({ min: 300, max: 20_000, noNaN: true }), fc.double({ min: -20, max: 120, noNaN: true }), (pullup, temperature) => {
        const sensor = number(shows({ ...ECT, with: { pullup } }, ohms("sig@part", "gnd@part", { key: "off", open: ["sensor"], truth: { temperature } })));
        const seen = number(shows({ ...ECT, with: { pullup } }, scan({ truth: { temperature } })));
        expect(seen).toBeCloseTo((5 * sensor) / (sensor + pullup), 1);
        expect(Math.abs(seen - (5 * sensor) / (sensor + pullup))).toBeLessThan(0.01);
      }),
      { numRuns: 40 },
    );
  });
  it("reads the reference unplugged and the hottest value with a jumper", () => {
    expect(number(shows(ECT, volts("sig@sensor", "bat-", { open: ["sensor"] })))).toBeCloseTo(5, 1);
    expect(number(shows(ECT, scan({ open: ["sensor"], add: [{ kind: "jumper", from: "sig@sensor", to: "gnd@sensor" }] })))).toBeLessThan(0.01);
  });
  it("tells degrees as the module does", () => {
    expect(number(shows(ECT, { ...scan({ truth: { temperature: 83 } }), unit: "degC" }))).toBeCloseTo(83, 0);
    expect(shows(ECT, { ...scan({ open: ["sensor"] }), unit: "degC" })).toBe(-40);
  });
  it("keeps its ground near the battery's", () => {
    expect(number(shows(ECT, volts("gnd@sensor", "bat-")))).toBeLessThan(0.05);
    expect(shows(ECT, { meter: "lamp", red: "bat+", black: "gnd@sensor", setup: { open: ["sensor"] } })).toBe("lit");
  });
});

describe("healthy three-wire circuits", () => {
  it("follow their lines", () => {
    expect(number(shows(TPS, scan({ truth: { position: 0 } })))).toBeCloseTo(0.6, 1);
    expect(number(shows(TPS, scan({ truth: { position: 100 } })))).toBeCloseTo(4.3, 1);
    expect(number(shows(MAP, scan({ truth: { pressure: 65 } })))).toBeCloseTo(2.5, 1);
  });
  it("are ratiometric: a lower reference lowers the signal in proportion", () => {
    const at = (vref: number): number =>
      number(
        shows(
          {
            ...MAP,
            with: {
              vref,
              transfer: [
                [20, 0.1 * vref],
                [110, 0.9 * vref],
              ],
            },
          },
          scan({ truth: { pressure: 65 } }),
        ),
      );
    expect(at(4.9) / at(5)).toBeCloseTo(0.98, 3);
  });
  it("have the track's resistance between reference and ground", () => {
    expect(number(shows(TPS, ohms("ref@part", "gnd@part")))).toBeCloseTo(5000, -1);
  });
});

describe("faults change readings by physics", () => {
  it("an open ground of a pressure sensor sends its signal up", () => {
    expect(number(shows(MAP, scan({ truth: { pressure: 40 } }), [{ id: "map/wire:gnd/open" }]))).toBeGreaterThan(4.5);
  });
  it("an open signal wire pulled down in the module reads low, pulled up reads high", () => {
    expect(number(shows(TPS, scan(), [{ id: "tps/wire:sig/open" }]))).toBeLessThan(0.05);
    expect(number(shows({ ...TPS, with: { pullup: 100_000 } }, scan(), [{ id: "tps/wire:sig/open" }]))).toBeGreaterThan(4.8);
  });
  it("ten kilo-ohms in a signal wire hide from an unloaded meter and show where current flows", () => {
    const fault = [{ id: "ect/wire:sig/resistance", ohms: 10_000 }];
    expect(number(shows(ECT, volts("sig@sensor", "bat-", { open: ["sensor"] }), fault))).toBeGreaterThan(4.95);
    expect(number(shows(ECT, volts("sig@module", "sig@sensor"), fault))).toBeGreaterThan(3);
    expect(number(shows(ECT, ohms("sig@module", "sig@sensor", { key: "off", open: ["sensor", "module"] }), fault))).toBeCloseTo(10_000, -2);
  });
  it("a shorted reference falls into the current limit", () => {
    const reading = number(shows(MAP, volts("ref@module", "bat-"), [{ id: "map/wire:ref/short-ground", ohms: 5 }]));
    expect(reading).toBeGreaterThan(0.3);
    expect(reading).toBeLessThan(0.8);
  });
  it("a blind input reports the same whatever the pin does", () => {
    const fault = [{ id: "map/module:input/blind", severity: 0.4 }];
    expect(shows(MAP, scan({ truth: { pressure: 30 } }), fault)).toBe(2);
    expect(shows(MAP, scan({ open: ["sensor"] }), fault)).toBe(2);
  });
  it("a loose contact shows only while it is moved", () => {
    const fault = [{ id: "ect/contact:sig@sensor/loose", ohms: 1e7 }];
    const still = number(shows(ECT, scan({ truth: { temperature: 60 } }), fault));
    expect(still).toBeCloseTo(number(shows(ECT, scan({ truth: { temperature: 60 } }))), 6);
    expect(number(shows(ECT, scan({ truth: { temperature: 60 }, stimulus: { kind: "wiggle", at: "sensor" } }), fault))).toBeGreaterThan(4.9);
    expect(number(shows(ECT, scan({ truth: { temperature: 60 }, stimulus: { kind: "wiggle", at: "module" } }), fault))).toBeCloseTo(still, 6);
  });
  it("both spellings of a short between two wires are one damage", () => {
    const one = shows(TPS, scan({ truth: { position: 0 } }), [{ id: "tps/wire:sig/short-to:ref", ohms: 20 }]);
    expect(shows(TPS, scan({ truth: { position: 0 } }), [{ id: "tps/wire:ref/short-to:sig", ohms: 20 }])).toBe(one);
    expect(number(one)).toBeGreaterThan(4.5);
  });
  it("an inline connector has contacts and stretches of its own", () => {
    const circuit = { ...ECT, inline: ["C1"] };
    const fault = [{ id: "ect/contact:sig@C1/corroded", ohms: 8000 }];
    expect(number(shows(circuit, volts("sig@module", "sig@C1"), fault))).toBeLessThan(0.01);
    expect(number(shows(circuit, volts("sig@C1", "sig@sensor"), fault))).toBeGreaterThan(2);
  });
});

describe("instruments show what they would show", () => {
  it("ohms are refused on a live line and overload beyond forty megohms", () => {
    expect(shows(ECT, ohms("sig@sensor", "gnd@sensor", {}))).toBe("live");
    expect(shows(ECT, ohms("sig@sensor", "gnd@sensor", { key: "off", open: ["sensor", "module"] }))).toBe("OL");
  });
  it("a beeper sounds through twenty ohms", () => {
    const beep = { meter: "continuity" as const, red: "sig@module", black: "sig@sensor", setup: { key: "off" as const, open: ["sensor", "module"] } };
    expect(shows(ECT, beep, [{ id: "ect/wire:sig/resistance", ohms: 20 }])).toBe("beep");
    expect(shows(ECT, beep, [{ id: "ect/wire:sig/resistance", ohms: 200 }])).toBe("open");
  });
  it("a test lamp shows resistance that a meter does not see", () => {
    const fault = [{ id: "ect/contact:gnd@sensor/corroded", ohms: 200 }];
    const wire = [{ id: "ect/wire:gnd/resistance", ohms: 200 }];
    const lamp = { meter: "lamp" as const, red: "bat+", black: "gnd@sensor", setup: { open: ["sensor"] } };
    expect(shows(ECT, lamp, wire)).toBe("out");
    expect(shows(ECT, lamp, fault)).toBe("lit");
    expect(number(shows(ECT, volts("bat+", "gnd@sensor", { open: ["sensor"] }), wire))).toBeGreaterThan(12);
  });
  it("an LED tester loads nothing", () => {
    const add = (kind: "lamp" | "led-lamp"): Setup => ({ open: ["sensor"], add: [{ kind, from: "bat+", to: "gnd@sensor" }] });
    const wire = [{ id: "ect/wire:gnd/resistance", ohms: 10 }];
    expect(number(shows(ECT, volts("gnd@sensor", "bat-", add("lamp")), wire))).toBeGreaterThan(1);
    expect(number(shows(ECT, volts("gnd@sensor", "bat-", add("led-lamp")), wire))).toBeLessThan(0.07);
  });
});

describe.each(FAMILIES.map(({ id }) => id))("%s", (family) => {
  const circuit: Circuit = { id: "x", family };
  it("lists faults with priors that sum to one and ranges that hold", () => {
    const faults = faultsOf(buildModel([circuit]));
    expect(faults.reduce((sum, { prior }) => sum + prior, 0)).toBeCloseTo(1, 9);
    expect(new Set(faults.map(({ id }) => id)).size).toBe(faults.length);
    for (const { id, unit, severity } of faults) {
      expect(id.startsWith(`${unit}/`)).toBe(true);
      if (severity !== null) expect(severity.low).toBeLessThan(severity.high);
    }
  });
  it("shows healthy readings inside their own windows", () => {
    const model = buildModel([circuit]);
    const tests = generateTests(model, model.circuits[0] as CircuitModel, { temperature: 20, pressure: 100 });
    expect(tests.length).toBeGreaterThanOrEqual(family === "reference-bus" ? 2 : 4);
    for (const test of tests) {
      const measurement = measurementOf(test);
      if (measurement.meter === "look") continue;
      const shown = simulateReading(model, measurement, [], "m");
      const window = expectHealthy(model, measurement, "m");
      const value = typeof shown === "object" && shown !== null ? shown.max - shown.min : shown;
      if (typeof value === "string") expect([test.title, value]).toEqual([test.title, window?.word]);
      else if (window?.word === "none") expect([test.title, value]).toEqual([test.title, 0]);
      else if (window?.word !== "counts") {
        expect([test.title, (window?.low ?? Number.NEGATIVE_INFINITY) <= (value ?? Number.NaN)]).toEqual([test.title, true]);
        expect([test.title, (window?.high ?? Number.POSITIVE_INFINITY) >= (value ?? Number.NaN)]).toEqual([test.title, true]);
      }
    }
  });
  it("writes a deck for every kind of measurement", () => {
    const model = buildModel([circuit]);
    const faults = faultsOf(model).filter(({ matters }) => matters);
    const [path] = model.circuits[0]?.paths ?? [];
    const red = path === undefined ? "bat+" : `${path.pin}@${[...path.places.keys()][0] ?? "sensor"}`;
    for (const fault of faults) {
      const deck = measurementDeck(model, volts(red, "bat-") as Measurement, [placeFault(model, faults, { id: fault.id }, "f")], "m");
      expect(deck).toMatch(/\n\* red=n_\w+ black=0\n/u);
      expect(deck.trimEnd().endsWith(".end")).toBe(true);
      expect(deck).not.toMatch(/NaN|Infinity/u);
    }
  });
});

describe("bad circuits get one clear sentence", () => {
  it.each<[string, Circuit[], string]>([
    ["an unknown family", [{ id: "a", family: "warp" }], 'circuits[0].family: "warp" is not a family of this version; expected thermistor-2w,'],
    ["an impossible pull-up", [{ ...ECT, with: { pullup: -5 } }], "circuits[0].with.pullup: expected at least 50, got -5"],
    ["a limit above the feed", [{ ...TPS, with: { high: 5.4 } }], "circuits[0].with.high: 5.4 V lies above the 5 V that feed the sensor"],
    [
      "a transfer above the feed",
      [
        {
          ...MAP,
          with: {
            transfer: [
              [0, 0.5],
              [100, 5.6],
            ],
          },
        },
      ],
      "circuits[0].with.transfer[1][1]: 5.6 V lies above",
    ],
    ["an unknown parameter", [{ ...ECT, with: { pulup: 2000 } }], 'circuits[0].with: unknown field "pulup"'],
    ["a colour on a missing pin", [{ ...ECT, colours: { ref: "red" } }], 'circuits[0].colours.ref: ect has no pin "ref"; expected sig, gnd'],
    [
      "a curve that rises",
      [
        {
          ...ECT,
          with: {
            curve: [
              [0, 100],
              [50, 900],
            ],
          },
        },
      ],
      "resistance must fall",
    ],
  ])("%s", (_name, circuits, message) => {
    expect(refusalOf(() => buildModel(circuits))).toContain(message);
  });
  it.each<[string, Omit<Measurement, "circuit">, string]>([
    ["a pin the family lacks", volts("ref@sensor", "bat-"), 'measurement.red: ect has no pin "ref"'],
    ["a place off the path", volts("sig@C1", "bat-"), 'measurement.red: sig of ect has no place "C1"; expected module, sensor, part'],
    ["both leads on one point", volts("bat-", "bat-"), "both leads are on bat-"],
    ["no black lead", { meter: "ohms", red: "sig@part" }, "needs a black lead"],
    ["a connector that is not there", scan({ open: ["C3"] }), '"C3" is not a connector of ect'],
    ["an unknown unit", { ...scan(), unit: "kPa" }, '"kPa" is not a unit of ect; expected V or degC'],
  ])("%s", (_name, measurement, message) => {
    expect(refusalOf(() => shows(ECT, measurement))).toContain(message);
  });
  it("refuses a severity of the wrong kind and faults that are not there", () => {
    expect(refusalOf(() => shows(ECT, scan(), [{ id: "ect/wire:sig/resistance", severity: 0.5 }]))).toContain("measured in ohms");
    expect(refusalOf(() => shows(ECT, scan(), [{ id: "ect/sensor/skewed", ohms: 10 }]))).toContain("has no ohms");
    expect(refusalOf(() => shows(ECT, scan(), [{ id: "ect/sensor/singing" }]))).toContain("is not a fault of ect");
    expect(refusalOf(() => shows(ECT, scan(), [{ id: "map/sensor/open" }]))).toContain('no circuit is called "map"');
  });
});

describe("connectors that fit one another", () => {
  const pair: Circuit[] = [
    { id: "ect", family: "thermistor-2w", alike: ["iat"] },
    {
      id: "iat",
      family: "thermistor-2w",
      with: {
        curve: [
          [-40, 100_000],
          [20, 5_000],
          [120, 200],
        ],
      },
    },
  ];
  const measured = (faults: readonly PlacedFault[], circuit: string, setup: Setup = {}): unknown => {
    const model = buildModel(pair);
    return simulateReading(model, { circuit, meter: "scan", red: "sig@module", setup }, faults, "m");
  };
  it("swapped connectors show the other sensor, and nothing once unplugged", () => {
    const model = buildModel(pair);
    const fault = faultsOf(model).find(({ id }) => id === "ect/connector:sensor/swapped:iat") as Fault;
    const placed = [{ fault, severity: 0.5, variant: fault.variants[0] as FaultVariant }];
    expect(measured([], "ect")).toBeCloseTo((5 * 2700) / 4900, 1);
    expect(measured([], "iat")).toBeCloseTo((5 * 5000) / 7200, 1);
    // iat's harness now sees the coolant sensor at 20 degC.
    expect(measured(placed, "iat", { truth: { temperature: 20 } })).toBeCloseTo((5 * 2700) / 4900, 1);
    // ect's harness sees the air sensor at 41.5 degC, the middle of its usual range.
    expect(measured(placed, "ect") as number).toBeLessThan(2.7);
    expect(measured(placed, "iat", { open: ["iat:sensor"] }) as number).toBeGreaterThan(4.9);
    expect(measured(placed, "ect", { open: ["iat:sensor"] }) as number).toBeLessThan(2.7);
  });
  it.each([
    [[{ id: "ect", family: "thermistor-2w", alike: ["iat"] }], "no other circuit"],
    [
      [
        { id: "ect", family: "thermistor-2w", alike: ["map"] },
        { id: "map", family: "pressure-3w" },
      ],
      "has 2 pins, that of map 3",
    ],
    [
      [
        { id: "cam", family: "hall-3w", alike: ["map"] },
        { id: "map", family: "pressure-3w" },
      ],
      "moves by itself",
    ],
  ])("refuses %j", (circuits, words) => {
    expect(() => buildModel(circuits)).toThrow(words);
  });
});
