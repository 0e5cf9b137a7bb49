import { buildModel } from "../../circuit";
import { predictHealthy } from "../../procedures";
import { columnsOf } from "../columns";
import { type ElectricalProbe, probeOf } from "../probe";
import { isAtEnd } from "./scan";

const model = buildModel([{ id: "ect", family: "thermistor-2w" }]);
const probe = (unit?: string): ElectricalProbe =>
  probeOf(
    model,
    { circuit: "ect", meter: "scan", red: "sig@module", setup: { key: "on", open: ["sensor"] }, ...(unit === undefined ? {} : { unit }) },
    "m",
  ) as ElectricalProbe;

describe("an end of the module's converter", () => {
  it("is nothing and full scale in volts, and no value between; values in the sensor's unit have ends of their own", () => {
    expect([0, 0.01, 0.05, 2.5, 4.81, 4.99, 5].map((volts) => isAtEnd(probe(), volts))).toEqual([true, true, false, false, false, true, true]);
    expect(isAtEnd(probe("degC"), 0)).toBe(false);
  });
  it("holds what lies beyond it: moved less, spread less, never above full scale; between the ends nothing is held", () => {
    const columns = columnsOf(model);
    const [free, held] = [probe(), { ...probe(), atEnd: true as const }].map((one) => predictHealthy(model, one, columns, 20, 1));
    const moved = ({ jacobian }: { readonly jacobian: Float64Array }): number => jacobian.reduce((sum, slope) => sum + slope * slope, 0);
    expect(free?.mean).toBeCloseTo(4.99, 1);
    expect(held?.mean ?? 9).toBeLessThan(5);
    expect(moved(held ?? { jacobian: new Float64Array(1) })).toBeLessThan(moved(free ?? { jacobian: new Float64Array(0) }));
  });
});
