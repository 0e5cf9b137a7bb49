import { alternativesOf, buildModel, FAMILIES } from "./index";
import { statedParameters } from "./provenance";

describe("where a parameter comes from", () => {
  it("is this car where a bare value stands, and what is said where somebody says", () => {
    const { values, origins } = statedParameters({ vref: 5, pullup: { value: 1000, from: "sister", spread: 200 }, curve: [[0, 6700]] });
    expect(values).toEqual({ vref: 5, pullup: 1000, curve: [[0, 6700]] });
    expect(origins.get("vref")).toEqual({ from: "specified", spread: null });
    expect(origins.get("pullup")).toEqual({ from: "sister", spread: 200 });
    expect(origins.has("limitA")).toBe(false);
  });
  it("widens what is computed only where the sheet is silent", () => {
    const spreads = (given: Record<string, unknown>): number =>
      buildModel([{ id: "x", family: "thermistor-2w", with: given }]).circuits[0]?.built.tolerances.filter(({ unsaid }) => unsaid !== undefined).length ?? 0;
    expect(spreads({})).toBe(2);
    expect(spreads({ pullup: 2200 })).toBe(1);
    expect(spreads({ pullup: { value: 2200, from: "family" } })).toBe(2);
  });
});

describe.each(FAMILIES.map(({ id }) => id))("what a silent sheet of %s may mean", (family) => {
  it("is one whole, can be built, and leaves alone what is stated", () => {
    const list = alternativesOf({ id: "x", family });
    expect(list.reduce((sum, { weight }) => sum + weight, 0)).toBeCloseTo(1, 9);
    for (const { circuit } of list) expect(() => buildModel([circuit])).not.toThrow();
    const whole = buildModel([{ id: "x", family }]).circuits[0]?.parameters as Record<string, unknown>;
    const stated = Object.fromEntries(Object.entries(whole).filter(([, value]) => value !== undefined));
    for (const { circuit } of alternativesOf({ id: "x", family, with: stated }))
      for (const [name, value] of Object.entries(stated)) expect([name, circuit.with?.[name]]).toEqual([name, value]);
  });
});
