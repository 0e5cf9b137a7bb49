import type { Diagnosis } from "@fox-lamp/language";
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
