import type { Circuit, Reading } from "@fox-lamp/language";
import { buildModel } from "../../circuit";
import { faultsOf } from "../../faults";
import { clustersOf } from "./clusters";
import { liftedTogether } from "./lifted";

const CIRCUITS: Circuit[] = [
  { id: "tps", family: "potentiometer-3w" },
  { id: "ect", family: "thermistor-2w" },
  { id: "pur", family: "solenoid-2w" },
];
const MODEL = buildModel(CIRCUITS);
const read = (owner: string, red: string, value: Reading["value"], rest: Partial<Reading> = {}) => ({
  owner,
  reading: { circuit: owner, meter: "volts-dc", red, black: "bat-", setup: { key: "idle" }, value, ...rest } as Reading,
});

describe("circuits whose grounds were found lifted", () => {
  it("are asked about together where there are two", () => {
    const lifted = liftedTogether(MODEL, [read("tps", "gnd@sensor", 0.34), read("ect", "gnd@module", 0.33), read("pur", "ctl@sensor", 12.3)]);
    expect(lifted).toEqual(["tps", "ect"]);
    expect(clustersOf(MODEL, [lifted]).map((circuits) => circuits.map(({ id }) => id))).toEqual([["tps", "ect"], ["pur"]]);
    expect(clustersOf(MODEL)).toHaveLength(3);
  });
  it("are not for one of them, for a ground in its place, while the starter turns, or seen from the sensor's own ground", () => {
    expect(liftedTogether(MODEL, [read("tps", "gnd@sensor", 0.34)])).toEqual([]);
    const other = read("tps", "gnd@sensor", 0.34);
    expect(liftedTogether(MODEL, [other, read("ect", "gnd@sensor", 0.04)])).toEqual([]);
    expect(liftedTogether(MODEL, [other, read("ect", "gnd@sensor", 0.3, { setup: { key: "crank" } })])).toEqual([]);
    expect(liftedTogether(MODEL, [other, read("ect", "gnd@sensor", 0.3, { black: "gnd@module" })])).toEqual([]);
    expect(liftedTogether(MODEL, [other, read("ect", "sig@sensor", 0.3)])).toEqual([]);
  });
  it("a recording is lifted where its lowest is", () => {
    const recorded = (min: number) => read("ect", "gnd@sensor", { min, max: 0.5 });
    expect(liftedTogether(MODEL, [read("tps", "gnd@sensor", 0.34), recorded(0.3)])).toHaveLength(2);
    expect(liftedTogether(MODEL, [read("tps", "gnd@sensor", 0.34), recorded(0.03)])).toHaveLength(0);
  });
  it("have the module's own ground as one fault, however many circuits hang on it", () => {
    const own = faultsOf(MODEL).filter(({ unit, kind }) => unit.endsWith("module:gnd") && kind === "resistance");
    expect(own.map(({ id }) => id)).toEqual(["tps/module:gnd/resistance"]);
  });
});
