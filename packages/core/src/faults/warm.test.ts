import { buildModel } from "../circuit";
import { faultsOf, showsIn } from ".";

describe("what opens when it is warm", () => {
  const hot = (family: string) => faultsOf(buildModel([{ id: "x", family }])).find(({ kind }) => kind === "hot");
  it.each(["thermistor-2w", "vr-2w", "solenoid-2w"])("%s: shows under heat, and where it is known to be hot, not otherwise", (family) => {
    const fault = hot(family);
    if (fault === undefined) throw new Error(`${family} has no such fault`);
    expect(showsIn(fault, {})).toBe(false);
    expect(showsIn(fault, { key: "off", truth: { temperature: 20 } })).toBe(false);
    expect(showsIn(fault, { key: "off", truth: { temperature: 90 } })).toBe(true);
    expect(showsIn(fault, { key: "off", truth: { temperature: { value: 90, within: 5 } } })).toBe(true);
    expect(showsIn(fault, { stimulus: { kind: "heat" } })).toBe(true);
    // An ohmmeter shows the most of it as OL.
    expect(fault.severity).toMatchObject({ key: "ohms" });
    expect(fault.severity?.high ?? 0).toBeGreaterThan(6e7);
  });
  it("is nothing a reference can do", () => {
    expect(hot("reference-bus")).toBeUndefined();
  });
});
