import { FINDING_PLACES, FINDINGS, findingsAt, LOOK_PLACES, lookPlaceOf } from "./findings";

describe("what can be seen where", () => {
  it.each([
    ["sensor", "connector"],
    ["module", "connector"],
    ["C3", "connector"],
    ["ect:sensor", "connector"],
    ["loom", "loom"],
    ["ect:loom", "loom"],
    ["target", "target"],
    ["part", "part"],
  ])("a look at %s is a look at a %s", (place, kind) => {
    expect(lookPlaceOf(place)).toBe(kind);
  });
  it("begins with nothing to be seen, everywhere", () => {
    for (const place of ["sensor", "loom", "target", "part"]) expect(findingsAt(place)[0]).toBe("ok");
  });
  it("offers each finding at some place, and only where it can be", () => {
    for (const finding of FINDINGS) {
      expect(FINDING_PLACES[finding].length).toBeGreaterThan(0);
      for (const place of LOOK_PLACES) {
        const example = place === "connector" ? "sensor" : place;
        expect(findingsAt(example).includes(finding)).toBe((FINDING_PLACES[finding] as readonly string[]).includes(place));
      }
    }
    expect(findingsAt("target")).toEqual(["ok", "not-turning", "gap", "metal"]);
    expect(findingsAt("loom")).not.toContain("pin-out");
  });
});
