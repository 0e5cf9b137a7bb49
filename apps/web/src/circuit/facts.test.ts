import { altitudeIn, factWords, looksLikeAltitude } from "./facts";

describe("an altitude as typed", () => {
  it.each([
    ["300", 300],
    ["300 m", 300],
    ["1,2 km", 1200],
    ["3900ft", 1189],
    ["-20 m", -20],
    ["", null],
    ["high", undefined],
    ["300 kPa", undefined],
    ["9000", undefined],
  ])("%p is %p", (text, metres) => expect(altitudeIn(text)).toBe(metres));
  it("is told from a pressure or temperature, where its unit says so", () => {
    expect(["300 m", "1.2 km", "3900 ft"].map(looksLikeAltitude)).toEqual([true, true, true]);
    expect(["300", "99.8 kPa", "20 °C", "14.5 psi", ""].map(looksLikeAltitude)).toEqual([false, false, false, false, false]);
  });
});

it("facts are said in the trade's words, what is not known is not said", () => {
  expect(factWords({}, [])).toEqual([]);
  expect(factWords({ engine: "does-not-start", codes: "none", lamp: "never-lit", altitudeMetres: 640 }, ["water", "own word"])).toEqual([
    "Does not start",
    "No codes stored",
    "Check lamp never lights",
    "640 m above the sea",
    expect.stringMatching(/water/iu),
    "own word",
  ]);
});
