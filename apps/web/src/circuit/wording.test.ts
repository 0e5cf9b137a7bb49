import type { CircuitView, PinView } from "@fox-lamp/core";
import { type Expect, type Reading, type Setup, unitOfReading } from "@fox-lamp/language";
import { leadText, readingTitle, setupText, valueText, windowText, within } from "./wording";

const PIN: Omit<PinView, "pin"> = {
  colour: null,
  cavity: null,
  role: "signal",
  origin: "module",
  places: ["module", "C1", "sensor"],
  contacts: ["module", "C1", "sensor"],
  joins: null,
  reachesPart: true,
};
const CIRCUIT: CircuitView = {
  id: "ect",
  title: "Coolant",
  part: "Temperature sensor",
  pins: [
    { ...PIN, pin: "sig", colour: "green", cavity: "1" },
    { ...PIN, pin: "gnd" },
  ],
  quantity: "temperature",
  unit: "degC",
  absolute: false,
  left: "module",
  partUnit: "sensor",
  stages: [],
  extras: [],
  body: false,
  members: [],
};
const window = (low: number | null, high: number | null, unit: string, word?: string): Expect => ({ low, high, unit, ...(word === undefined ? {} : { word }) });

describe("where a lead goes", () => {
  it.each<[string, Setup, string, string]>([
    ["sig@sensor", {}, "Sensor connector, cavity 1", "signal, green, back-probed"],
    ["sig@sensor", { open: ["sensor"] }, "Sensor connector, cavity 1", "signal, green, harness side, unplugged"],
    ["gnd@module", { open: ["ect:sensor"] }, "Module connector", "ground, back-probed"],
    ["sig@part", { open: ["sensor"] }, "Temperature sensor, cavity 1", "signal, green, its own terminal"],
    ["sig@C1", {}, "C1, cavity 1", "signal, green, back-probed, module's half"],
    ["sig@C1.out", { open: ["C1"] }, "C1, cavity 1", "signal, green, sensor's half, unplugged"],
    ["sig@C1", { open: ["C1"] }, "C1, cavity 1", "signal, green, module's half, unplugged"],
    ["bat-", {}, "Battery negative", ""],
  ])("%s", (point, setup, main, detail) => {
    const told = leadText(CIRCUIT, point, setup);
    expect([told.main, [told.detail, told.how].filter((text) => text !== "").join(", ")]).toEqual([main, detail]);
  });
  it.each<[string, Setup, string, string]>([
    ["cam:sig@sensor", {}, "Sensor connector of cam, cavity 1", "back-probed"],
    ["cam:sig@sensor", { open: ["sensor"] }, "Sensor connector of cam, cavity 1", "back-probed"],
    ["cam:sig@sensor", { open: ["cam:sensor"] }, "Sensor connector of cam, cavity 1", "harness side, unplugged"],
    ["ect:sig@sensor", { open: ["sensor"] }, "Sensor connector, cavity 1", "harness side, unplugged"],
  ])("names another circuit than the test's: %s in %j", (point, setup, main, how) => {
    const told = leadText(CIRCUIT, point, setup, [CIRCUIT, { ...CIRCUIT, id: "cam", title: "Cam" }]);
    expect([told.main, told.how]).toEqual([main, how]);
  });
});

describe("a setup in words", () => {
  it("says key, plugs, added parts and movement", () => {
    expect(setupText({})).toBe("key on, everything plugged");
    expect(setupText({ key: "off", open: ["sensor", "module"] })).toBe("key off, sensor and module unplugged");
    expect(setupText({ open: ["sensor"], add: [{ kind: "resistor", from: "ref@sensor", to: "sig@sensor", ohms: 4700 }] })).toBe(
      "key on, sensor unplugged, 4.7 kΩ from reference to signal at the sensor",
    );
    expect(setupText({ stimulus: { kind: "wiggle", at: "sensor" }, truth: { position: 0 } })).toBe(
      "key on, everything plugged, moved at the sensor, position 0 %",
    );
  });
});

describe("values against their windows", () => {
  it.each<[Reading["value"], Expect | null, boolean | null]>([
    [4.9, window(4.8, 5.1, "V"), true],
    [4.7, window(4.8, 5.1, "V"), false],
    ["OL", window(80, 6e4, "ohm"), false],
    ["OL", window(8e4, null, "ohm"), true],
    ["live", window(8e4, null, "ohm"), false],
    ["OL", window(null, null, "ohm", "OL"), true],
    [12, window(null, null, "ohm", "OL"), false],
    ["lit", window(null, null, "", "lit"), true],
    [{ min: 0.1, max: 0.5, avg: 0.3 }, window(0.2, 0.4, "V"), true],
    [1, null, null],
  ])("%j", (value, expected, fits) => {
    expect(within(value, expected)).toBe(fits);
  });
  it("windows and values are printed with their unit or word", () => {
    expect(windowText(window(0.48, 0.52, "V"))).toBe("0.48 to 0.52 V");
    expect(windowText(window(null, null, "", "lit"))).toBe("lit");
    expect(windowText(null)).toBe("");
    expect(valueText("pin-out", "")).toBe("Pin pushed out");
    expect(valueText(2503, unitOfReading({ meter: "ohms" }))).toBe("2.50 kΩ");
    expect(valueText({ min: 0.1, max: 0.5 }, "V")).toBe("0.10 V to 0.50 V");
    expect(unitOfReading({ meter: "scan", unit: "degC" })).toBe("degC");
    expect(unitOfReading({ meter: "lamp" })).toBe("");
  });
});

describe("a reading's title", () => {
  it.each<[Reading, string]>([
    [{ meter: "scan", red: "sig@module", value: 1 }, "Signal, what the module reads"],
    [{ meter: "look", red: "loom", value: "ok" }, "Look: loom"],
    [{ meter: "volts-dc", red: "ref@sensor", black: "gnd@sensor", value: 1 }, "Reference at the sensor to ground at the sensor"],
    [{ meter: "volts-dc", red: "bat+", black: "bat-", value: 1 }, "Battery positive"],
    [{ meter: "ohms", red: "sig@part", black: "gnd@part", value: 1 }, "Signal on the part to ground on the part, ohms"],
  ])("%j", (reading, title) => {
    expect(readingTitle(reading)).toBe(title);
  });
  it("names the circuit of a lead that is on another one", () => {
    const circuits = [
      { id: "cks", title: "Crankshaft sensor" },
      { id: "ect", title: "Coolant temperature" },
    ];
    const reading: Reading = { circuit: "cks", meter: "volts-dc", red: "cks:feed@sensor", black: "ect:gnd@sensor", value: 12.3 };
    expect(readingTitle(reading, circuits)).toBe("Crankshaft sensor: feed at the sensor to ground at the sensor of coolant temperature");
    expect(setupText({ add: [{ kind: "jumper", from: "sig@sensor", to: "ect:gnd@sensor" }] }, circuits)).toContain(
      "from signal at the sensor to ground at the sensor of coolant temperature",
    );
  });
});
