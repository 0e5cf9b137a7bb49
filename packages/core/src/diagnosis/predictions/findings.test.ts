import { FINDINGS, findingsAt } from "@fox-lamp/language";
import { buildModel, FAMILIES } from "../../circuit";
import { type Fault, faultsOf } from "../../faults";
import { diagnoseJob } from "../index";
import { findingProbabilities } from "./findings";

const model = (family: string) => buildModel([{ id: "x", family }]);
const fault = (family: string, id: string): Fault => {
  const found = faultsOf(model(family)).find((one) => one.id === `x/${id}`);
  if (found === undefined) throw new Error(`${family} has no fault ${id}`);
  return found;
};
/** How many times as likely a finding is with the fault as without. */
const weighs = (family: string, id: string, place: string, finding: string): number => {
  const index = findingsAt(place).indexOf(finding as never);
  return findingProbabilities("x", place, fault(family, id))[index] / findingProbabilities("x", place, null)[index];
};

describe("what a look shows", () => {
  it.each(FAMILIES.map(({ id }) => id))("sums to one for every fault of %s, and weighs twenty to one at most but for what nobody mistakes", (family) => {
    for (const place of ["sensor", "module", "loom", "target", "part"]) {
      const none = findingProbabilities("x", place, null);
      for (const one of [null, ...faultsOf(model(family))]) {
        const seen = findingProbabilities("x", place, one);
        expect(seen).toHaveLength(findingsAt(place).length);
        expect(seen.reduce((sum, share) => sum + share, 0)).toBeCloseTo(1, 9);
        seen.forEach((share, index) => {
          const plain = ["not-turning", "plugged-port", "wrong-part"].includes(findingsAt(place)[index]);
          expect(share / none[index]).toBeLessThan(plain ? 320 : 25);
        });
      }
    }
  });

  it.each([
    ["thermistor-2w", "contact:sig@sensor/corroded", "sensor", "corroded"],
    ["thermistor-2w", "contact:sig@sensor/open", "sensor", "pin-out"],
    ["thermistor-2w", "contact:sig@sensor/open", "sensor", "unplugged"],
    ["thermistor-2w", "contact:sig@sensor/loose", "sensor", "unplugged"],
    ["thermistor-2w", "contact:sig@sensor/corroded", "sensor", "wet"],
    ["solenoid-2w", "contact:feed@sensor/corroded", "sensor", "burnt"],
    ["potentiometer-3w", "contact:ref@sensor/swapped:sig", "sensor", "pin-out"],
    ["thermistor-2w", "wire:sig/short-ground", "loom", "chafed"],
    ["thermistor-2w", "wire:sig/short-ground", "loom", "burnt"],
    ["thermistor-2w", "wire:sig/resistance", "loom", "corroded"],
    ["vr-2w", "sensor/weak", "target", "metal"],
    ["vr-2w", "sensor/weak", "target", "metal"],
    ["vr-2w", "sensor/weak", "part", "metal"],
    ["vr-2w", "outside/no-target", "target", "not-turning"],
    ["hall-3w", "outside/no-target", "target", "gap"],
    ["pressure-3w", "outside/plugged-port", "part", "plugged-port"],
    ["thermistor-2w", "sensor/skewed", "part", "contaminated"],
    ["thermistor-2w", "sensor/wrong-variant", "part", "wrong-part"],
    ["solenoid-2w", "coil/short", "part", "burnt"],
  ])("%s: %s speaks for itself at the %s as %s", (family, id, place, finding) => {
    expect(weighs(family, id, place, finding)).toBeGreaterThan(1.3);
  });

  it("has a fault behind every finding that is offered", () => {
    const every = FAMILIES.flatMap(({ id }) => faultsOf(model(id)));
    for (const place of ["sensor", "loom", "target", "part"]) {
      const none = findingProbabilities("x", place, null);
      const names = findingsAt(place).filter((name) => name !== "ok");
      const silent = names.filter((name) => {
        const index = findingsAt(place).indexOf(name);
        return !every.some((one) => findingProbabilities("x", place, one)[index] > 1.3 * none[index]);
      });
      expect([place, silent]).toEqual([place, []]);
    }
    expect(FINDINGS).toContain("ok");
  });

  it("is nothing where the damage cannot be seen, or in another circuit", () => {
    expect(weighs("thermistor-2w", "contact:sig@sensor/corroded", "module", "corroded")).toBeLessThan(1.01);
    const other = { ...fault("thermistor-2w", "contact:sig@sensor/corroded"), circuit: "y" };
    expect([...findingProbabilities("x", "sensor", other)]).toEqual([...findingProbabilities("x", "sensor", null)]);
  });
});

describe("a look in a job", () => {
  const job = (value: string, red = "sensor") => ({
    circuits: [{ id: "x", family: "solenoid-2w" }],
    readings: [
      { id: "r1", meter: "volts-dc" as const, red: "feed@sensor", black: "bat-", setup: { key: "on" as const }, value: 12.3 },
      ...(value === "" ? [] : [{ id: "r2", meter: "look" as const, red, setup: {}, value }]),
    ],
  });
  const of = (result: ReturnType<typeof diagnoseJob>, unit: string): number => result.units.find((one) => one.unit === unit)?.probability ?? 0;

  it("of a burnt part points at the coil, a burnt connector at its terminals", () => {
    const before = diagnoseJob(job(""));
    expect(of(diagnoseJob(job("burnt", "part")), "x/coil")).toBeGreaterThan(1.5 * of(before, "x/coil"));
    expect(of(diagnoseJob(job("unplugged")), "x/contact:ctl@sensor")).toBeGreaterThan(1.5 * of(before, "x/contact:ctl@sensor"));
  });
  it.each(["a mouse nest", "chafed along the bracket"])("that shows %s is kept and weighs nothing", (value) => {
    const [before, after] = [diagnoseJob(job("")), diagnoseJob(job(value))];
    for (const { unit, probability } of before.units) expect(of(after, unit)).toBeCloseTo(probability, 6);
    expect(after.doubtful).toEqual([]);
  });
});
