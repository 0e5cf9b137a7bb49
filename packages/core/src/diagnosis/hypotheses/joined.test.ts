import type { Measurement } from "@fox-lamp/language";
import { buildModel } from "../../circuit";
import { clustersOf } from "./clusters";
import { circuitsIn, joinedByLeads } from "./joined";

const at = (red: string, black?: string, setup: Measurement["setup"] = {}): Measurement => ({
  meter: "volts-dc",
  red,
  ...(black === undefined ? {} : { black }),
  setup,
});
const named = (measurement: Measurement): string[] => [...circuitsIn("cks", measurement)].sort();

describe("what joins circuits", () => {
  it("is a lead on another one's pin, whichever lead", () => {
    expect(named(at("feed@sensor", "ect:gnd@sensor"))).toEqual(["cks", "ect"]);
    expect(named(at("ect:gnd@sensor", "bat-"))).toEqual(["cks", "ect"]);
  });

  it("is a part put in to it", () => {
    expect(named(at("sig@sensor", "bat-", { add: [{ kind: "jumper", from: "sig@sensor", to: "iat:gnd@sensor" }] }))).toEqual(["cks", "iat"]);
  });

  it("is nothing a circuit has of itself, nor another's plug that is off", () => {
    expect(named(at("cks:sig@sensor", "bat-", { open: ["sensor", "module", "map:sensor"], stimulus: { kind: "wiggle", at: "loom" } }))).toEqual(["cks"]);
    expect(named({ meter: "look", red: "sensor" })).toEqual(["cks"]);
  });

  it("weighs what was joined together and the rest apart", () => {
    const model = buildModel([
      { id: "cks", family: "hall-3w" },
      { id: "ect", family: "thermistor-2w" },
      { id: "iat", family: "thermistor-2w" },
      { id: "tps", family: "potentiometer-3w" },
    ]);
    const sets = (...measurements: Measurement[]): string[][] =>
      clustersOf(model, joinedByLeads(measurements.map((measurement) => ({ owner: "cks", measurement })))).map((own) => own.map(({ id }) => id));
    expect(sets()).toEqual([["cks"], ["ect"], ["iat"], ["tps"]]);
    expect(sets(at("feed@sensor", "ect:gnd@sensor"))).toEqual([["cks", "ect"], ["iat"], ["tps"]]);
    expect(sets(at("feed@sensor", "ect:gnd@sensor"), at("ect:gnd@sensor", "tps:gnd@sensor"))).toEqual([["cks", "ect", "tps"], ["iat"]]);
    // A circuit the job has not is named where the reading is looked at.
    expect(sets(at("feed@sensor", "egr:gnd@sensor"))).toEqual([["cks"], ["ect"], ["iat"], ["tps"]]);
  });
});
