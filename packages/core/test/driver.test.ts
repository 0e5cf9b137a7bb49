import type { Measurement } from "@fox-lamp/language";
import { measureFile } from "../src";

const command = { stimulus: { kind: "command" as const } };

/** What a voltmeter shows on a circuit, volts; negative lead on the battery unless said otherwise. */
function volts(
  circuit: { id: string; family: string; with?: Record<string, unknown> },
  measurement: Partial<Measurement>,
  fault?: { id: string; ohms?: number },
): number {
  const [shown] = measureFile({
    circuits: [circuit],
    faults: fault === undefined ? [] : [fault],
    measurements: [{ meter: "volts-dc", black: "bat-", setup: {}, ...measurement } as Measurement],
  });
  return shown?.value as number;
}

const valve = { id: "pv", family: "solenoid-2w", with: { coil: [22, 26], hertz: 0 } };
const cell = { id: "o2", family: "oxygen-narrow" };

describe("the module's low-side driver", () => {
  it("drops volts of its own besides its ohms while it carries amperes", () => {
    // 12.2 V less a quarter over 24 ohm is half an ampere: 0.25 V and 0.1 ohm of it, and the module's own ground on top.
    const low = volts(valve, { red: "ctl@sensor", setup: command });
    expect(low).toBeGreaterThan(0.28);
    expect(low).toBeLessThan(0.45);
  });
  it("drops next to nothing where nothing flows: a broken winding leaves its pin on ground", () => {
    expect(volts(valve, { red: "ctl@sensor", setup: command }, { id: "pv/coil/open" })).toBeLessThan(0.1);
    expect(volts(cell, { red: "htr-ctl@sensor", setup: { key: "idle" } }, { id: "o2/heater/open" })).toBeLessThan(0.15);
  });
  it("watches its wire with some volts of its own while it is off", () => {
    expect(volts(valve, { red: "ctl@sensor", setup: { open: ["sensor"] } })).toBeCloseTo(2.5, 1);
    expect(volts(valve, { red: "ctl@sensor", setup: { key: "off", open: ["sensor"] } })).toBeLessThan(0.1);
  });
});

describe("water between two terminals of a plug", () => {
  const sensor = { id: "ect", family: "thermistor-2w", with: { pullup: 2200 } };
  const wet = { id: "ect/contact:sig@sensor/bridged:gnd", ohms: 1000 };
  const cold = { truth: { temperature: 0 } };
  it("warms what the module sees while it is plugged", () => {
    // 1 kilo-ohm beside some six: below 5 V * 1 / 3.2.
    expect(volts(sensor, { red: "sig@sensor", setup: cold }, wet)).toBeLessThan(1.57);
    expect(volts(sensor, { red: "sig@sensor", setup: cold })).toBeGreaterThan(3);
  });
  it("is gone with the plug pulled, from the line and from the part", () => {
    expect(volts(sensor, { red: "sig@sensor", setup: { open: ["sensor"] } }, wet)).toBeCloseTo(5, 1);
    const bare: Partial<Measurement> = { meter: "ohms", red: "sig@part", black: "gnd@part", setup: { key: "off", open: ["sensor"], ...cold } };
    expect(volts(sensor, bare, wet)).toBeCloseTo(volts(sensor, bare), 0);
  });
});
