import fc from "fast-check";
import { PINS } from "./points";
import { circuitOfUnit, parseLocalUnit, parseUnit, printLocalUnit, printUnit, type RepairUnit, unitKindOf, unitOfFault } from "./repair-unit";

const circuit = fc.stringMatching(/^[a-z][a-z0-9-]{0,8}$/u);
const pin = fc.constantFrom(...PINS);
const place = fc.constantFrom("sensor", "module", "C1", "C12", "S2");
const unit: fc.Arbitrary<RepairUnit> = fc.oneof(
  fc.record({ kind: fc.constant("wire" as const), circuit, pin }),
  fc.record({ kind: fc.constant("contact" as const), circuit, pin, place }),
  fc.record({ kind: fc.constant("connector" as const), circuit, place }),
  fc.record({ kind: fc.constant("module" as const), circuit, stage: fc.constantFrom("pull", "ref", "gnd", "input", "driver", "bias") }),
  fc.record({ kind: fc.constant("ground" as const), circuit, ground: fc.constantFrom("engine", "chassis") }),
  fc.record({ kind: fc.constant("contacts" as const), circuit }),
  fc.record({ kind: fc.constantFrom("sensor" as const, "heater" as const, "coil" as const, "battery" as const, "outside" as const), circuit }),
);

describe("a repair unit", () => {
  it("is the same after it was printed and taken apart", () => {
    fc.assert(
      fc.property(unit, (one) => {
        expect(parseUnit(printUnit(one))).toEqual(one);
        expect(parseLocalUnit(one.circuit, printLocalUnit(one))).toEqual(one);
        expect([circuitOfUnit(printUnit(one)), unitKindOf(printUnit(one))]).toEqual([one.circuit, one.kind]);
      }),
    );
  });
  it.each([
    ["ect/wire:sig", { kind: "wire", circuit: "ect", pin: "sig" }],
    ["ect/contact:sig+@C1", { kind: "contact", circuit: "ect", pin: "sig+", place: "C1" }],
    ["car/ground:engine", { kind: "ground", circuit: "car", ground: "engine" }],
    ["bus/contacts:module", { kind: "contacts", circuit: "bus" }],
    ["map/connector:sensor", { kind: "connector", circuit: "map", place: "sensor" }],
    ["car/battery", { kind: "battery", circuit: "car" }],
  ])("%s says what it is", (text, parsed) => {
    expect(parseUnit(text)).toEqual(parsed);
  });
  it.each(["", "nothing-wrong", "ect", "ect/", "/wire:sig", "ect/wire:", "ect/contact:sig", "ect/loom:sig", "ect/contacts:sensor", "ect/sensors"])(
    "%p is none",
    (text) => {
      expect(parseUnit(text)).toBeNull();
      expect(unitKindOf(text)).toBeNull();
    },
  );
  it("is what a fault's name begins with", () => {
    expect(unitOfFault("ect/wire:sig/short-ground")).toBe("ect/wire:sig");
    expect(unitOfFault("x/contact:ref@sensor/swapped:sig")).toBe("x/contact:ref@sensor");
  });
});
