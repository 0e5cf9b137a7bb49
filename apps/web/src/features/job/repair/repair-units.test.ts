import type { Diagnosis } from "@fox-lamp/language";
import { compared, NO_PART } from "./PartFields";
import { oddsOf, unitsOfJob, usualAct } from "./units";

const ECT = { id: "ect", family: "thermistor-2w", title: "Coolant temperature", with: { resistance: [2000, 3000] } };
const PURGE = { id: "purge", family: "solenoid-2w", title: "Purge valve" };

describe("what a repair can be done to", () => {
  it("is every part, wire and contact of every circuit of the job, parts first, each by its name", () => {
    const units = unitsOfJob([ECT, PURGE]);
    expect(units.slice(0, 2).map(([unit]) => unit)).toEqual(["ect/sensor", "purge/coil"]);
    expect(units).toContainEqual(["ect/wire:sig", expect.stringMatching(/Signal wire.*Coolant temperature/u)]);
    expect(new Set(units.map(([unit]) => unit)).size).toBe(units.length);
  });
  it("is usually fitted where it is a part, repaired where it is a wire, and what was decided on the spot comes before that", () => {
    expect([usualAct("ect/sensor"), usualAct("ect/wire:sig"), usualAct("ect/contact:sig@sensor")]).toEqual(["fitted", "repaired", "repaired"]);
    expect([usualAct("ect/sensor", "clean"), usualAct("ect/wire:sig", "loom")]).toEqual(["cleaned", "fitted"]);
  });
});

describe("the odds of a part nobody has proven", () => {
  const diagnosis = {
    units: [
      { unit: "ect/sensor", probability: 0.6 },
      { unit: "ect/wire:sig", probability: 0.3 },
    ],
    stake: { unit: "ect/sensor", title: "", wrong: 0.4, lossMinutes: 20, nextMinutes: null, lossMoney: null, sentence: "" },
  } as unknown as Pick<Diagnosis, "units" | "stake">;
  it("are those of that part, not of the likeliest", () => {
    expect(oddsOf("ect/sensor", diagnosis)).toEqual({ probability: 0.6, lossMinutes: 20 });
    expect(oddsOf("ect/wire:sig", diagnosis)).toEqual({ probability: 0.3, lossMinutes: 35 });
    expect(oddsOf("ect/contact:gnd@module", diagnosis)).toEqual({ probability: 0, lossMinutes: 50 });
  });
  it("cost nothing that nobody has reckoned", () => {
    expect(oddsOf("ect/sensor", { ...diagnosis, stake: null } as never).lossMinutes).toBeNull();
  });
});

describe("a new part against the old one", () => {
  it("reads ohms as they are typed anywhere, and says which of them is none", () => {
    const { part, problems } = compared({ ...NO_PART, oldOhms: "OL", newOhms: "2k5" }, "ect/sensor", [ECT]);
    expect(part).toMatchObject({ oldOhms: "OL", newOhms: 2500, shape: true });
    expect(problems).toEqual({ oldOhms: undefined, newOhms: undefined });
    const wrong = compared({ ...NO_PART, oldOhms: "12 V", newOhms: "about two" }, "ect/sensor", [ECT]);
    expect(wrong.part).toBeNull();
    expect(wrong.problems.oldOhms).toMatch(/V/u);
    expect(wrong.problems.newOhms).toBeDefined();
  });
  it("matches only with the same shape and a resistance inside the specification", () => {
    const at = (newOhms: string, same = true) => compared({ ...NO_PART, newOhms, same }, "ect/sensor", [ECT]);
    expect([at("2k5").matches, at("9k").matches, at("2k5", false).matches, at("").matches]).toEqual([true, false, false, false]);
    expect(at("9k").hint).toMatch(/outside the specification/u);
    expect(at("9k").outside).toBe(true);
  });
});
