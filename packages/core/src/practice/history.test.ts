import { completeSheets } from "../circuit";
import { seededRandom } from "../numeric";
import { drawCar, STEADY } from "./car";
import { HISTORIES, knownModel } from "./history";
import { runTrial } from "./trial";

const circuits = completeSheets([{ id: "circuit", family: "thermistor-2w" }]);

describe("a model that usually fails in one unit", () => {
  it("is the same whatever the shop remembers of it; what misleads names another unit most", () => {
    const [fits, misleads, unknown] = HISTORIES.map((history) => knownModel(circuits, "thermistor-2w", history, seededRandom(3)));
    expect(new Set([fits?.pattern, misleads?.pattern, unknown?.pattern]).size).toBe(1);
    expect(unknown?.learnt).toEqual([]);
    const most = (learnt: readonly { unit: string; model: number }[] = []): string | undefined => [...learnt].sort((a, b) => b.model - a.model)[0]?.unit;
    expect(most(fits?.learnt)).toBe(fits?.pattern);
    expect(most(misleads?.learnt)).not.toBe(fits?.pattern);
    expect(fits?.learnt.reduce((sum, { model }) => sum + model, 0)).toBe(10);
  });
  it("hides its fault in that unit", () => {
    const random = seededRandom(5);
    for (let car = 0; car < 10; car += 1) {
      const { hidden } = drawCar(circuits, random, { ...STEADY, pattern: "contact:sig@sensor" });
      expect(hidden?.fault.unit).toBe("circuit/contact:sig@sensor");
    }
    // A unit it does not have: any fault.
    expect(() => drawCar(circuits, random, { ...STEADY, pattern: "coil" })).not.toThrow();
  });
  it("meets the same cars under every memory", () => {
    const truths = HISTORIES.map((history) => {
      const seen: string[] = [];
      runTrial({ jobs: 3, seed: 11, families: ["thermistor-2w"], blunders: 0, history, clock: () => 0 }, ({ truth }) => void seen.push(truth));
      return seen;
    });
    expect(truths[1]).toEqual(truths[0]);
    expect(truths[2]).toEqual(truths[0]);
  });
});
