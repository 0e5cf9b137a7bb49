import type { Reading } from "@fox-lamp/language";
import { diagnoseJob, Session } from "../index";

const circuits = [{ id: "tps", family: "potentiometer-3w", title: "Throttle position" }];
const at = (position: number) => ({ key: "on" as const, truth: { position } });
const VOLTS = { circuit: "tps", meter: "volts-dc" as const };

/** 625 ohm in the ground wire: the sensor's ground stands at 0.9 V. What the drop between module and sensor reads says where. */
const ABOUT: Reading[] = [
  { circuit: "tps", meter: "scan", id: "r1", red: "sig@module", setup: at(0), value: 1.43 },
  { circuit: "tps", meter: "scan", id: "r2", red: "sig@module", setup: at(100), value: 4.88 },
  { ...VOLTS, id: "r3", red: "gnd@sensor", black: "bat-", setup: at(0), value: 0.92 },
  { ...VOLTS, id: "r4", red: "ref@sensor", black: "gnd@sensor", setup: at(0), value: 4.03 },
];
const drop = (id: string, value: number): Reading => ({ ...VOLTS, id, red: "gnd@sensor", black: "gnd@module", setup: at(0), value });
const diagnose = (...more: Reading[]) => diagnoseJob({ circuits, readings: [...ABOUT, ...more] }, new Session());

describe("a verdict that hangs on one reading", () => {
  it("is proven, and asks to read it once more: a probe that does not touch reads the same 0 V", () => {
    const { verdict, confirm = [] } = diagnose(drop("r5", -0.001));
    expect(verdict).toMatchObject({ status: "proven", unit: "tps/contact:gnd@module" });
    expect(confirm[0]?.reading).toBe("r5");
    expect(confirm[0]?.without).toBeLessThan(0.8);
    expect(confirm[0]?.why).toBe("Without -1.0 mV at r5 this would not be proven. Read it once more before anything is replaced.");
  });
  it("asks no more for it once it was read twice alike", () => {
    const { verdict, confirm = [] } = diagnose(drop("r5", -0.001), drop("r6", -0.001));
    expect(verdict).toMatchObject({ status: "proven", unit: "tps/contact:gnd@module" });
    const asked = confirm.map(({ reading }) => reading);
    for (const id of ["r5", "r6"]) expect(asked).not.toContain(id);
  });
  it("goes to the wire where the second try reads the drop", () => {
    const { verdict, units, doubtful } = diagnose(drop("r5", -0.001), drop("r6", 0.88));
    expect(units[0]?.unit).toBe("tps/wire:gnd");
    expect(doubtful.map(({ reading }) => reading)).toEqual(["r5"]);
    if (verdict.status === "proven") expect(verdict.unit).toBe("tps/wire:gnd");
  });
  it("asks nothing where the fault comes and goes: there every reading may be another", () => {
    expect(diagnoseJob({ circuits, intermittent: true, readings: [...ABOUT, drop("r5", -0.001)] }, new Session()).confirm).toBeUndefined();
  });
});
