import fc from "fast-check";
import type { Observation } from "./observation";
import { SameSide } from "./same-side";

/** A reading by some leads, of which only what it is an answer to matters here. */
function reading(red: string, word = -1, unit: string | null = "Hz"): Observation {
  const probe = { kind: "electrical", circuit: { id: "map" }, meter: "scan", unit, red, black: "bat-" };
  return { id: "", key: "", table: { probe, wordNames: ["none"] }, number: word < 0 ? 1 : null, word } as unknown as Observation;
}

function shared(observations: readonly Observation[], chances: readonly number[]): number[] {
  const answers = Float64Array.from(chances, Math.log);
  new SameSide(observations, observations).share(answers);
  return [...answers].map((answer) => Number(Math.exp(answer).toFixed(9)));
}

const product = (chances: readonly number[]): number => chances.reduce((all, chance) => all * chance, 1);

describe("readings that answer the same question of the same signal", () => {
  it("pay together what the least likely of them costs, in any order", () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: 0.06, max: 1, noNaN: true }), { minLength: 2, maxLength: 6 }), (chances) => {
        const all = chances.map(() => reading("sig@module"));
        expect(product(shared(all, chances))).toBeCloseTo(Math.min(...chances), 6);
        const forward = shared(all, chances).sort();
        expect(shared(all, [...chances].reverse()).sort()).toEqual(forward);
      }),
    );
  });

  it("are those of the same leads, instrument and unit, with the same answer", () => {
    const alike = reading("sig@module");
    expect(product(shared([alike, alike], [0.25, 0.25]))).toBeCloseTo(0.25, 6);
    for (const other of [reading("sig@sensor"), reading("sig@module", 0), reading("sig@module", -1, "rpm")])
      expect(product(shared([alike, other], [0.25, 0.25]))).toBeCloseTo(0.0625, 6);
  });

  it("are each for themselves where they answer differently, whoever is asked elsewhere", () => {
    const [alike, silent] = [reading("sig@module"), reading("sig@module", 0)];
    expect(new SameSide([alike, alike], [alike, alike]).any).toBe(true);
    expect(new SameSide([alike, alike], [alike, alike, silent]).any).toBe(false);
    expect(new SameSide([alike, alike], [alike, alike, reading("sig@sensor", 0)]).any).toBe(true);
  });

  it("are each for themselves where an answer hardly ever comes", () => {
    const alike = reading("sig@module");
    expect(shared([alike, alike], [0.0025, 0.0025])).toEqual([0.0025, 0.0025]);
    expect(new SameSide([alike], [alike]).any).toBe(false);
  });
});
