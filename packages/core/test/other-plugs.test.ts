import { BadInput, type Circuit, type Measurement, type Reading } from "@fox-lamp/language";
import { diagnoseJob, ownTest, Session } from "../src/diagnosis";

const CIRCUITS: Circuit[] = [
  { id: "tps", family: "potentiometer-3w" },
  { id: "ect", family: "thermistor-2w", title: "Coolant temperature" },
];
const reference = (open: string[]): Reading => ({ circuit: "tps", meter: "volts-dc", red: "ref@sensor", black: "bat-", setup: { open }, value: 5.01 });
const session = new Session();

describe("the plug of a circuit that shares nothing with the one measured", () => {
  it("may be off: that changes nothing", () => {
    const units = (open: string[]) => diagnoseJob({ circuits: CIRCUITS, readings: [reference(open)] }, session).units;
    const [alone, beside] = [units(["sensor"]), units(["tps:sensor", "ect:sensor"])];
    for (const { unit, probability } of alone) expect(beside.find((other) => other.unit === unit)?.probability).toBeCloseTo(probability, 6);
  });
  it("may be off in a test of one's own as well", () => {
    const { value: _value, ...asked } = reference(["tps:sensor", "ect:sensor"]);
    const { expect: window } = ownTest({ circuits: CIRCUITS, readings: [] }, asked, session);
    expect(window.low).toBeGreaterThan(4.5);
    expect(window.high).toBeLessThan(5.5);
  });
  it("may lend its ground: a lead on it, or a part put in to it, is weighed with both circuits", () => {
    const lent: Measurement = { circuit: "tps", meter: "volts-dc", red: "ref@sensor", black: "ect:gnd@sensor", setup: { open: ["sensor"] } };
    const { expect: window, title } = ownTest({ circuits: CIRCUITS, readings: [] }, lent, session);
    expect(title).toBe("Reference at the sensor to ground at the sensor of coolant temperature");
    expect(window.low).toBeGreaterThan(4.5);
    expect(window.high).toBeLessThan(5.5);
    // Nothing against its own ground, all of it against the other one: its own is open.
    const against = (black: string, value: number): Reading => ({ ...lent, black, value });
    const [first] = diagnoseJob({ circuits: CIRCUITS, readings: [against("gnd@sensor", 0.01), against("ect:gnd@sensor", 5.01)] }, session).units;
    expect(first?.unit).toMatch(/^tps\/(?:wire:gnd|contact:gnd@)/u);
  });
  it("is refused by name where the job has no such circuit", () => {
    expect(() => diagnoseJob({ circuits: CIRCUITS, readings: [reference(["egr:sensor"])] }, session)).toThrow(BadInput);
  });
});
