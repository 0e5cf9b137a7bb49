import type { Circuit, Reading } from "@fox-lamp/language";
import { diagnoseJob, Session } from "../index";

const session = new Session();
const ect = (stated: Circuit["with"]): Circuit[] => [{ id: "ect", family: "thermistor-2w", ...(stated === undefined ? {} : { with: stated }) }];
const scan = (value: number, setup: Reading["setup"] = {}): Reading => ({ circuit: "ect", meter: "scan", red: "sig@module", setup, value });
const WARM = { truth: { temperature: 25 } };
const SUBSTITUTE = { open: ["sensor"], add: [{ kind: "resistor" as const, from: "sig@sensor", to: "gnd@sensor", ohms: 4700 }] };
/** 1.6 V behind 470 ohm, two kilo-ohm at 25 degC: 1.6 * 2000 / 2470 and 1.6 * 4700 / 5170. */
const READINGS: Reading[] = [
  scan(1.3, WARM),
  { circuit: "ect", meter: "ohms", red: "sig@part", black: "gnd@part", setup: { key: "off", open: ["sensor"], ...WARM }, value: 2000 },
  scan(1.45, SUBSTITUTE),
  { circuit: "ect", meter: "volts-dc", red: "gnd@sensor", black: "bat-", setup: WARM, value: 0.05 },
];

describe("what a sheet leaves out", () => {
  it("keeps a verdict back that hangs on it, and is asked for first", () => {
    const { verdict, ask } = diagnoseJob({ circuits: ect(undefined), readings: READINGS }, session);
    expect(verdict.status).toBe("narrowing");
    expect(ask?.[0]).toMatchObject({ circuit: "ect", parameter: "pullup" });
  });
  it("once it is stated says who it is", () => {
    const units = diagnoseJob({ circuits: ect({ pullup: 470, vref: 5 }), readings: READINGS }, session).units;
    const odds = (unit: string): number => units.find((one) => one.unit === unit)?.probability ?? 0;
    expect(odds("ect/module:pull")).toBeGreaterThan(0.8);
    expect(odds("ect/contact:sig@sensor") + odds("ect/contact:gnd@sensor")).toBeLessThan(0.1);
  });
  it("asks nothing of a sheet that says it, whatever it says", () => {
    const { ask = [] } = diagnoseJob({ circuits: ect({ pullup: 2200, vref: 5 }), readings: READINGS.slice(0, 2) }, session);
    expect(ask.map(({ parameter }) => parameter)).not.toContain("pullup");
  });
  it("changes no verdict that every kind of circuit gives", () => {
    // The winding is open, on whichever valve.
    const valve: Circuit[] = [{ id: "pv", family: "solenoid-2w" }];
    const readings: Reading[] = [
      { circuit: "pv", meter: "ohms", red: "feed@part", black: "ctl@part", setup: { key: "off", open: ["sensor"] }, value: "OL" },
      { circuit: "pv", meter: "volts-dc", red: "feed@sensor", black: "bat-", setup: { key: "on" }, value: 12.2 },
      { circuit: "pv", meter: "listen", red: "part", setup: { stimulus: { kind: "command" } }, value: "no-click" },
    ];
    const { verdict } = diagnoseJob({ circuits: valve, readings }, session);
    expect([verdict.status, verdict.unit]).toEqual(["proven", "pv/coil"]);
  });
});
