import { buildModel } from "../../circuit";
import { predictHealthy } from "../../procedures";
import { columnsOf } from "../columns";
import { type ElectricalProbe, probeOf } from "../probe";
import { converterEnds, isAtEnd } from "./scan";

const model = buildModel([{ id: "ect", family: "thermistor-2w" }]);
const probe = (unit?: string): ElectricalProbe =>
  probeOf(
    model,
    { circuit: "ect", meter: "scan", red: "sig@module", setup: { key: "on", open: ["sensor"] }, ...(unit === undefined ? {} : { unit }) },
    "m",
  ) as ElectricalProbe;

describe("an end of the module's converter", () => {
  it("is nothing and full scale in volts, and no value between; values in the sensor's unit have ends of their own", () => {
    const shown = [-3, 0, 0.01, 0.05, 2.5, 4.81, 4.99, 5, 5.02, 12.4, 3030];
    expect(shown.filter((volts) => isAtEnd(probe(), volts))).toEqual([0, 0.01, 4.99, 5, 5.02]);
    expect(isAtEnd(probe("degC"), 0)).toBe(false);
  });
  it("once read, says that the level lies there or beyond: the level itself is predicted, moved by all that moves it", () => {
    const columns = columnsOf(model);
    const [free, held] = [probe(), { ...probe(), atEnd: true as const }].map((one) => predictHealthy(model, one, columns, 20, 1));
    expect(held?.mean).toBe(free?.mean);
    expect([...(held?.jacobian ?? [])]).toEqual([...(free?.jacobian ?? [])]);
    expect(converterEnds(probe())).toMatchObject({ low: 0.02, high: 4.98 });
    expect(converterEnds(probe("degC"))).toBeNull();
  });
});
