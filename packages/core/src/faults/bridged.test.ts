import { buildModel } from "../circuit";
import { faultsOf } from "./catalogue";

const bridged = (family: string): string[] => faultsOf(buildModel([{ id: "x", family }])).flatMap(({ id }) => (id.includes("bridged") ? [id] : []));

describe("two terminals bridged in the sensor's plug", () => {
  it("are a signal and its neighbours, and never two lines that carry amperes", () => {
    expect(bridged("thermistor-2w")).toEqual(["x/contact:sig@sensor/bridged:gnd"]);
    expect(bridged("potentiometer-3w")).toEqual(["x/contact:sig@sensor/bridged:ref", "x/contact:sig@sensor/bridged:gnd"]);
    expect(bridged("solenoid-2w")).toEqual([]);
  });
  it("come with water eight times as often, before anything is measured", () => {
    const prior = (hints: readonly "water"[]): number => {
      const all = faultsOf(buildModel([{ id: "x", family: "thermistor-2w" }]), hints);
      const of = (kind: string): number => all.find(({ id }) => id === `x/contact:sig@sensor/${kind}`)?.prior ?? 0;
      return of("bridged:gnd") / of("open");
    };
    expect(prior(["water"]) / prior([])).toBeCloseTo(8, 9);
  });
});
