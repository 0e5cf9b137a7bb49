import { buildModel, FAMILIES } from "../circuit";
import { seededRandom } from "../numeric";
import { foreignCircuits } from "./foreign";
import { runTrial } from "./index";

describe("circuits of another maker", () => {
  it.each(FAMILIES.map(({ id }) => id))("can be built, and the sheet of %s says nothing that is not so", (family) => {
    const random = seededRandom(5);
    for (let count = 0; count < 12; count += 1) {
      const { actual, sheet } = foreignCircuits([{ id: "x", family }], random);
      expect(() => buildModel(actual)).not.toThrow();
      expect(() => buildModel(sheet)).not.toThrow();
      for (const [name, value] of Object.entries(sheet[0]?.with ?? {})) expect([name, value]).toEqual([name, actual[0]?.with?.[name]]);
    }
  });

  it("are solved as jobs, the same ones for the same seed", () => {
    const once = (): unknown => {
      const { msPerAdvice: _ms, ...rest } = runTrial({ jobs: 3, seed: 4, families: ["thermistor-2w"], blunders: 0, world: "foreign", clock: () => 0 });
      return rest;
    };
    expect(once()).toEqual(once());
  });
});
