import type { Measurement, Setup } from "@fox-lamp/language";
import { buildModel } from "../../circuit";
import { predictHealthy } from "../../procedures";
import { columnsOf } from "../columns";
import { predictionSigma } from "../predict";
import { type ElectricalProbe, probeOf } from "../probe";
import { AC_OFFSET_VOLTS } from "../scale";
import { simulateReading } from "../simulate";

/** A two-wire sensor of 5 megohm on 2.5 V behind 100 kilo-ohm: 2.45 V, less what a meter of 10 megohm takes. */
const KNOCK = buildModel([{ id: "ks", family: "knock-2w", with: { biasV: 2.5, pullup: 100_000, resistance: [4_900_000, 5_100_000] } }]);
const TAP = { key: "on" as const, stimulus: { kind: "tap" as const } };
const scope = (setup: Setup, coupling: "dc" | "ac" = "dc"): Measurement => ({
  circuit: "ks",
  meter: "capture",
  red: "sig@module",
  black: "bat-",
  setup,
  record: "min-max",
  coupling,
});
const electrical = (model: typeof KNOCK, measurement: Measurement): ElectricalProbe => probeOf(model, measurement, "m") as ElectricalProbe;

describe("a ring on a line with a bias", () => {
  // 0.55 V behind the crystal's 30 kilo-ohm, into the pull-up's 100: 0.42 V either way.
  const ring = (0.55 * 100) / 130;

  it("goes both ways from where the line rests", () => {
    const shown = simulateReading(KNOCK, scope(TAP), [], "m") as { min: number; max: number; avg: number };
    expect(shown.min).toBeCloseTo(2.43 - ring, 1);
    expect(shown.max).toBeCloseTo(2.43 + ring, 1);
    expect(shown.avg).toBeCloseTo(2.43, 1);
  });

  it("and from nothing where the input takes the level away", () => {
    const shown = simulateReading(KNOCK, scope(TAP, "ac"), [], "m") as { min: number; max: number };
    expect(shown.min).toBeCloseTo(-ring, 1);
    expect(shown.max).toBeCloseTo(ring, 1);
  });

  it("its ends are predicted where they are shown", () => {
    const columns = columnsOf(KNOCK);
    const ends = (["min", "max"] as const).map((statistic) => predictHealthy(KNOCK, { ...electrical(KNOCK, scope(TAP)), statistic }, columns, 0, 0).mean);
    const shown = simulateReading(KNOCK, scope(TAP), [], "m") as { min: number; max: number };
    expect(ends[0]).toBeCloseTo(shown.min, 2);
    expect(ends[1]).toBeCloseTo(shown.max, 2);
  });

  it("leaves a line still that is unplugged, whatever its bias may be", () => {
    const probe: ElectricalProbe = { ...electrical(KNOCK, scope({ ...TAP, open: ["sensor"] }, "ac")), statistic: "swing" };
    const prediction = predictHealthy(KNOCK, probe, columnsOf(KNOCK), 0, 0);
    // In ln of volts with an offset: three standard deviations are less than a tenth of a volt, not a volt.
    expect(Math.exp(prediction.mean + 3 * predictionSigma(prediction)) - AC_OFFSET_VOLTS).toBeLessThan(0.1);
  });
});
