import type { Circuit, ScopeRequest } from "@fox-lamp/language";
import { scopeVirtualCar } from "./virtual-scope";

const CAM: Circuit = { id: "cam", family: "hall-3w", with: { teeth: 12, missing: 1, feedV: 12, pullupV: 5 } };
const state = { repairs: [], battery: null, conditions: {} } as never;
const request = (over: Partial<ScopeRequest> = {}): ScopeRequest => ({
  circuit: "cam",
  channels: [
    { name: "sig", red: "cam:sig@sensor", black: "bat-" },
    { name: "gnd", red: "cam:gnd@sensor", black: "bat-" },
  ],
  seconds: 0.4,
  rate: 10_000,
  setup: { key: "idle" },
  bits: 12,
  ...over,
});
const behind = (simulated: object, repairs: readonly object[] = []) => ({
  circuits: [CAM],
  simulated: { faults: [], seed: 3, ...simulated } as never,
  state: { ...(state as object), repairs } as never,
});
const most = (samples: Float32Array | undefined): number => Math.max(...(samples ?? []));
const least = (samples: Float32Array | undefined): number => Math.min(...(samples ?? []));

describe("the scope of a virtual car", () => {
  it("stores one array a channel, the same for the same call and another for the next", () => {
    const [sig, gnd] = scopeVirtualCar(behind({}), request(), 1);
    expect([sig?.length, gnd?.length]).toEqual([4000, 4000]);
    expect(most(sig)).toBeGreaterThan(4.8);
    expect(least(sig)).toBeLessThan(0.4);
    expect(scopeVirtualCar(behind({}), request(), 1)[0]).toEqual(sig);
    expect(scopeVirtualCar(behind({}), request(), 2)[0]).not.toEqual(sig);
  });
  it("sees the car's faults, and no longer those that were repaired", () => {
    const faults = [{ id: "cam/wire:gnd/open" }];
    expect(most(scopeVirtualCar(behind({ faults }), request(), 1)[1])).toBeGreaterThan(10);
    expect(most(scopeVirtualCar(behind({ faults }, [{ unit: "cam/wire:gnd" }]), request(), 1)[1])).toBeLessThan(0.5);
  });
  it("sees a fault when it is there: at stated moments, or for its share of them", () => {
    const at = { faults: [{ id: "cam/wire:gnd/open" }], scope: { during: [{ from: 0.1, to: 0.2 }] } };
    const [, gnd] = scopeVirtualCar(behind(at), request(), 1);
    expect(most(gnd?.subarray(0, 990))).toBeLessThan(0.5);
    expect(least(gnd?.subarray(1010, 1990))).toBeGreaterThan(10);
    const often = scopeVirtualCar(behind({ faults: [{ id: "cam/wire:gnd/open" }], misses: 0.5 }), request({ seconds: 4, rate: 1000 }), 1)[1] as Float32Array;
    const share = often.filter((volts) => volts > 10).length / often.length;
    expect(share).toBeGreaterThan(0.2);
    expect(share).toBeLessThan(0.8);
  });
  it("is refused with one sentence for circuits and leads the car does not have", () => {
    expect(() => scopeVirtualCar(behind({}), request({ circuit: "crank" }), 1)).toThrow('circuit: "crank" is none of the car\'s circuits');
    expect(() => scopeVirtualCar(behind({}), request({ channels: [{ name: "x", red: "cam:ref@sensor", black: "bat-" }] }), 1)).toThrow("has no pin");
  });
});
