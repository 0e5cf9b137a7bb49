import fc from "fast-check";
import { choleskyInPlace } from "../../numeric";
import type { PredictionTable } from "../predictions/table";
import { SharedNoise } from "./shared-noise";

const table = (lasting: number, bent = 0, mean = 5): PredictionTable =>
  ({ mean: Float64Array.of(mean), bent: Float64Array.of(bent), lasting: Float64Array.of(lasting) }) as unknown as PredictionTable;

/** Lays every number out at the first slot of its table, all of the same noise. */
function spreadOf(tables: readonly PredictionTable[], noise: number): Float64Array {
  const n = tables.length;
  const shared = new SharedNoise(tables);
  const scales = new Float64Array(n).fill(1 / Math.sqrt(noise));
  const spread = new Float64Array(n * n);
  for (let i = 0; i < n; i += 1) {
    shared.lay(i, 0);
    spread[i * n + i] = 1;
  }
  shared.addTo({ spread, moved: new Float64Array(n), scales });
  return spread;
}

describe("what readings share that no tolerance moves", () => {
  it("is what is the circuit's own, where the very same was measured again", () => {
    const ground = table(0.0009);
    const feed = table(0.0009);
    const spread = spreadOf([ground, feed, ground], 0.001);
    expect(spread[1 * 3 + 0]).toBe(0);
    expect(spread[2 * 3 + 0]).toBeCloseTo(0.9, 12);
    expect(spread[2 * 3 + 1]).toBe(0);
  });
  it("is never all of it", () => {
    const open = table(1.8e21);
    expect(choleskyInPlace(spreadOf([open, open, open], 1.8e21), 3)).not.toBeNull();
  });
  it("is nothing for a number that was set aside", () => {
    const ground = table(0.0009);
    const shared = new SharedNoise([ground, ground]);
    shared.lay(0, 0);
    shared.lay(1, 0);
    shared.leave(1);
    const spread = Float64Array.of(1, 0, 0, 1);
    shared.addTo({ spread, moved: new Float64Array(2), scales: Float64Array.of(30, 30) });
    expect([...spread]).toEqual([1, 0, 0, 1]);
  });
  it("makes a covariance that can be, however often whatever was read", () => {
    const probe = fc.record({ lasting: fc.double({ min: 0, max: 1, noNaN: true }), times: fc.integer({ min: 1, max: 4 }) });
    fc.assert(
      fc.property(fc.array(probe, { minLength: 1, maxLength: 5 }), (probes) => {
        const tables = probes.flatMap(({ lasting, times }) => {
          const one = table(lasting);
          return Array.from({ length: times }, () => one);
        });
        expect(choleskyInPlace(spreadOf(tables, 1.0001), tables.length)).not.toBeNull();
      }),
    );
  });
});
