import { isLoom, shownWhile } from "./presence";

describe("where moving brings a complaint", () => {
  const most = shownWhile("map/contact:ref@C1", "C1", "map");
  it("is most often the very place of its cause", () => {
    expect(most).toBeGreaterThan(0.5);
    for (const [unit, moved] of [
      ["map/contact:ref@C1", "sensor"],
      ["map/sensor", "C1"],
      ["map/contact:ref@C1", "loom"],
    ] as const)
      expect(shownWhile(unit, moved, "map")).toBeLessThan(0.5);
  });
  it("is a wire's loom: of every circuit where none is named, else that of the one that is", () => {
    expect(shownWhile("map/wire:ref", "loom", "oil")).toBe(most);
    expect(shownWhile("oil/wire:ref", "oil:loom", "map")).toBe(most);
    expect(shownWhile("map/wire:ref", "oil:loom", "map")).toBeLessThan(0.2);
    expect(shownWhile("oil/contact:ref@sensor", "oil:loom", "map")).toBe(shownWhile("map/contact:ref@C1", "loom", "map"));
    expect([isLoom("loom"), isLoom("oil:loom"), isLoom("C1"), isLoom(null)]).toEqual([true, true, false, false]);
  });
});
