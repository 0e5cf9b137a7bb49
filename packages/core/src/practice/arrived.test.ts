import { buildModel } from "../circuit";
import { faultsOf, placeFault } from "../faults";
import { blownFuses, probeOf, solveSetup } from "../instruments";
import { seededRandom } from "../numeric";
import { asItArrived } from "./arrived";
import { placedCar } from "./car";

const circuits = [{ id: "maf", family: "maf-voltage" }];
const model = buildModel(circuits);
const faults = faultsOf(model);
const shorted = (ohms: number) => placeFault(model, faults, { id: "maf/wire:feed/short-ground", ohms }, "fault");

describe("a car as it came in", () => {
  it("has its fuse blown where the engine that ran on the way blew it, and whole where it did not", () => {
    // Fifteen ampere: with some 0.1 ohm of supply line at 14 V under 0.86 ohm, at 12.4 V under 0.71 ohm.
    for (const [ohms, blows] of [
      [0.5, true],
      [0.78, true],
      [3, false],
    ] as const) {
      const fault = shorted(ohms);
      expect(asItArrived(model, fault, []) !== fault).toBe(blows);
    }
  });

  it("keeps it blown with the key on, where too little would flow to blow it", () => {
    const car = placedCar({ circuits, faults: [{ id: "maf/wire:feed/short-ground", ohms: 0.74 }] }, seededRandom(4), seededRandom(5));
    const feed = car.read({ id: "r", circuit: "maf", meter: "volts-dc", red: "feed@sensor", black: "bat-", setup: { key: "on" } });
    expect(feed).toBeLessThan(0.1);
  });

  it("leaves a fault of the battery alone", () => {
    const weak = placeFault(model, faults, { id: "car/battery/weak" }, "fault");
    expect(asItArrived(model, weak, [])).toBe(weak);
  });
});

describe("a fuse that one half of a cycle blows", () => {
  it("is blown in both", () => {
    const valve = buildModel([{ id: "purge", family: "solenoid-2w", with: { coil: [20, 30] } }]);
    const fault = placeFault(valve, faultsOf(valve), { id: "purge/coil/short", ohms: 0.3 }, "fault");
    const probe = probeOf(
      valve,
      { id: "r", circuit: "purge", meter: "volts-dc", red: "feed@sensor", black: "bat-", setup: { stimulus: { kind: "command" } } },
      "r",
    );
    if (probe === null) throw new Error("no probe");
    const bare = { ...fault, fault: { ...fault.fault, effect: () => [{ element: "coil", field: "ohms" as const, value: 0.3 }] } };
    const { moments } = solveSetup(valve, probe, [bare]);
    expect(moments.length).toBeGreaterThan(1);
    const [fuse = -1] = blownFuses(moments);
    expect(moments.every(({ solution }) => solution.regimes[fuse] === moments[0]?.solution.regimes[fuse])).toBe(true);
    expect(fuse).toBeGreaterThanOrEqual(0);
  });
});
