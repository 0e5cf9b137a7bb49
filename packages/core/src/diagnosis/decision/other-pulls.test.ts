import { otherPulls } from "./other-pulls";

describe("other pulls inside the module", () => {
  it("are several times and a fraction of the one that was taken, marked as nobody's figure", () => {
    const kinds = otherPulls({ id: "tb", family: "dual-track", with: { heldUp: "both" } }, ["pulldown"]);
    expect(kinds.map(({ circuit }) => circuit.with)).toEqual(
      [880_000, 55_000, 2_640_000].map((value) => ({ heldUp: "both", pulldown: { value, from: "family" } })),
    );
    for (const { weight } of kinds) expect(weight).toBeLessThan(1);
  });
  it("start from the one the kind was taken with", () => {
    const [first] = otherPulls({ id: "ect", family: "thermistor-2w", with: { pullup: { value: 1000, from: "family" } } }, ["pullup"]);
    expect(first?.circuit.with).toEqual({ pullup: { value: 4000, from: "family" } });
  });
  it("are none where something else is strained, or the family has no such pull", () => {
    expect(otherPulls({ id: "tb", family: "dual-track" }, ["transfer"])).toEqual([]);
    expect(otherPulls({ id: "s", family: "maf-freq" }, ["pulldown"])).toEqual([]);
    expect(otherPulls({ id: "s", family: "no-such" }, ["pullup"])).toEqual([]);
  });
});
