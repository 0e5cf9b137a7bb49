import type { Circuit, Reading } from "@fox-lamp/language";
import { diagnoseJob, Session } from "../index";

const stepsFor = (circuits: Circuit[], readings: Reading[]) => {
  const { verdict } = diagnoseJob({ circuits, readings }, new Session());
  return { status: verdict.status, unit: verdict.unit, steps: verdict.steps ?? [] };
};

describe("what a declared fault asks for besides repair", () => {
  it("is to dry a plug whose terminals water bridges", () => {
    const cold = { truth: { temperature: 16 } };
    const iat = (meter: Reading["meter"], red: string, setup: Reading["setup"], value: Reading["value"], more: Partial<Reading> = {}): Reading => ({
      circuit: "iat",
      meter,
      red,
      setup,
      value,
      ...more,
    });
    const off = { key: "off" as const, open: ["sensor"] };
    const { status, unit, steps } = stepsFor(
      [{ id: "iat", family: "thermistor-2w", title: "Intake air" }],
      [
        iat("scan", "sig@module", cold, 58, { unit: "degC" }),
        iat("scan", "sig@module", { open: ["sensor"] }, -40, { unit: "degC" }),
        iat("look", "sensor", off, "wet"),
        iat("ohms", "sig@part", { ...off, ...cold }, 2900, { black: "gnd@part" }),
        iat("ohms", "sig@sensor", { key: "off", open: ["sensor", "module"] }, "OL", { black: "gnd@sensor" }),
        iat("scan", "sig@module", cold, 57, { unit: "degC" }),
      ],
    );
    expect([status, unit]).toEqual(["proven", "iat/contact:sig@sensor"]);
    expect(steps.slice(0, 2)).toEqual([
      "Repair signal contact at the sensor.",
      "Dry the plug, clean its terminals and look at its seal: what bridges two of them is gone when it is pulled.",
    ]);
  });
  it("is to look beyond the circuit where its value is true", () => {
    const hot = { key: "idle" as const, truth: { temperature: 130 } };
    const { status, unit, steps } = stepsFor(
      [{ id: "ect", family: "thermistor-2w", title: "Coolant" }],
      [{ circuit: "ect", meter: "scan", red: "sig@module", unit: "degC", setup: hot, value: 129 }],
    );
    expect([status, unit]).toEqual(["proven", "ect/outside"]);
    expect(steps[0]).toBe("The circuit is sound and its value is true: look for the cause in what it measures, before any part is replaced.");
  });
  it("is nothing where to repair it says all", () => {
    const { unit, steps } = stepsFor(
      [{ id: "pv", family: "solenoid-2w", title: "Purge" }],
      [
        { circuit: "pv", meter: "ohms", red: "feed@part", black: "ctl@part", setup: { key: "off", open: ["sensor"] }, value: "OL" },
        { circuit: "pv", meter: "volts-dc", red: "feed@sensor", black: "bat-", setup: {}, value: 12.2 },
        { circuit: "pv", meter: "listen", red: "part", setup: { stimulus: { kind: "command" } }, value: "no-click" },
      ],
    );
    expect(unit).toBe("pv/coil");
    expect(steps).toHaveLength(2);
  });
});
