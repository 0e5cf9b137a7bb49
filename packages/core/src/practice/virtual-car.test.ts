import type { Circuit, Simulated } from "@fox-lamp/language";
import fc from "fast-check";
import { type CarBehindJob, driveAt, faultsLeft, mends, readVirtualCar, scanVirtualCar } from "./virtual-car";

const ect: Circuit = { id: "ect", family: "thermistor-2w", title: "Coolant temperature", codes: { high: "P0118", low: "P0117" } };
const tps: Circuit = { id: "tps", family: "potentiometer-3w", title: "Throttle position" };
const fault = (id: string, ohms?: number) => ({ id, ...(ohms === undefined ? {} : { ohms }) });
const behind = (faults: Simulated["faults"], more: Partial<CarBehindJob> & { misses?: number } = {}): CarBehindJob => ({
  circuits: [ect, tps],
  simulated: { seed: 7, faults, ...(more.misses === undefined ? {} : { misses: more.misses }) } as Simulated,
  state: { repairs: [], battery: null, conditions: { temperature: 20 }, ...more.state } as CarBehindJob["state"],
});
const repaired = (...units: string[]) => ({ repairs: units.map((unit) => ({ text: "done", unit })), battery: null }) as never;
const signal = { circuit: "ect", meter: "volts-dc" as const, red: "sig@sensor", black: "bat-" };

describe("a repair", () => {
  it.each([
    ["ect/wire:sig", "ect/wire:sig/open", true],
    ["ect/wire:sig", "ect/wire:gnd/open", false],
    ["ect/sensor", "ect/sensor/skewed", true],
    ["ect/sensor", "tps/sensor/dead", false],
    ["ect/contact:sig@sensor", "ect/contact:sig@sensor/swapped:gnd", true],
    ["ect/contacts:module", "ect/module:pull/missing", true],
    ["ect/contacts:module", "ect/contact:sig@module/corroded", true],
    ["ect/contacts:module", "ect/contact:sig@sensor/corroded", false],
    ["ect/contacts:module", "tps/module:ref/low", false],
    ["nothing", "ect/wire:sig/open", false],
  ])("of %s mends %s: %s", (unit, id, does) => {
    expect(mends(unit, id)).toBe(does);
  });
  it("leaves the other faults in the car; a charged battery is mended", () => {
    const faults = [fault("ect/wire:sig/open"), fault("car/battery/weak"), fault("tps/sensor/dead")];
    const simulated = { seed: 1, faults } as Simulated;
    const ids = (state: never) => faultsLeft(simulated, state).map(({ id }) => id);
    expect(ids(repaired())).toHaveLength(3);
    expect(ids(repaired("ect/wire:sig"))).toEqual(["car/battery/weak", "tps/sensor/dead"]);
    expect(ids({ repairs: [], battery: { restVolts: 12.6, charged: true } } as never)).not.toContain("car/battery/weak");
    expect(ids({ repairs: [{ text: "looked at it" }], battery: null } as never)).toHaveLength(3);
  });
});

describe("a virtual car read with instruments", () => {
  it("shows its fault, and after the repair none", () => {
    const open = [fault("ect/wire:sig/open")];
    const [broken] = readVirtualCar(behind(open), [{ ...signal, setup: { open: ["sensor"] } }], 0) as [number];
    const [mended] = readVirtualCar(behind(open, { state: repaired("ect/wire:sig") }), [{ ...signal, setup: { open: ["sensor"] } }], 0) as [number];
    expect(Math.abs(broken)).toBeLessThan(0.3);
    expect(mended).toBeGreaterThan(4.5);
  });
  it("is the same car every time, with noise of its own at every reading", () => {
    const at = (call: number) => readVirtualCar(behind([]), [signal], call)[0] as number;
    expect(at(1)).toBe(at(1));
    const seen = [1, 2, 3, 4, 5, 6].map(at);
    expect(new Set(seen).size).toBeGreaterThan(1);
    expect(Math.max(...seen) - Math.min(...seen)).toBeLessThan(0.1);
  });
  it("takes a measurement without a circuit on the first, and has circuits nobody put on the sheet yet", () => {
    const { circuit: _circuit, ...bare } = signal;
    expect(typeof readVirtualCar(behind([]), [bare], 0)[0]).toBe("number");
    const early = { ...behind([]), circuits: [], simulated: { seed: 7, faults: [], circuits: [ect] } as unknown as Simulated };
    expect(typeof readVirtualCar(early, [signal], 0)[0]).toBe("number");
  });
  it("refuses what cannot be measured", () => {
    expect(() => readVirtualCar(behind([]), [{ ...signal, red: "ref@sensor" }], 0)).toThrow();
  });
});

describe("a virtual car asked by a scan adapter", () => {
  const codes = (one: CarBehindJob) => (scanVirtualCar(one, { do: "codes" }, 0).codes ?? []).map(({ code }) => code);
  it("has the code of its fault, and none when it is whole", () => {
    expect(codes(behind([fault("ect/wire:sig/open")]))).toContain("P0118");
    expect(codes(behind([fault("ect/wire:sig/open")], { state: repaired("ect/wire:sig") }))).toEqual([]);
    expect(scanVirtualCar(behind([fault("ect/wire:sig/open")]), { do: "codes" }, 0).lamp).toBe(true);
  });
  it("records its data while it is driven: speed, then each circuit by its title", () => {
    const { recording } = scanVirtualCar(behind([]), { do: "live", seconds: 20, drive: true }, 1);
    expect(recording?.seconds).toHaveLength(40);
    expect(recording?.channels[0]).toMatchObject({ name: "engine speed", unit: "rpm" });
    expect(recording?.channels.map(({ name }) => name)).toEqual(expect.arrayContaining(["Coolant temperature", "Throttle position"]));
    for (const { values } of recording?.channels ?? []) expect(values).toHaveLength(40);
    const speed = (recording?.channels[0]?.values ?? []) as number[];
    expect(Math.max(...speed)).toBeGreaterThan(3000);
  });
  it("shows a fault that comes and goes in some moments, not in others", () => {
    const { recording } = scanVirtualCar(behind([fault("ect/wire:sig/open")], { misses: 0.5 }), { do: "live", seconds: 30 }, 3);
    const warm = (recording?.channels.find(({ circuit }) => circuit === "ect")?.values ?? []) as number[];
    expect(warm.some((value) => value < -20)).toBe(true);
    expect(warm.some((value) => value > 0)).toBe(true);
  });
  it("clears, and commands what it has", () => {
    expect(scanVirtualCar(behind([]), { do: "clear" }, 0)).toEqual({ codes: [], lamp: false, done: true });
    expect(scanVirtualCar(behind([]), { do: "command", circuit: "egr", on: true }, 0).done).toBe(false);
  });
});

describe("a drive", () => {
  it("begins and ends idling, pedal and speed rising and falling together", () => {
    expect([driveAt(0), driveAt(1)]).toEqual([
      { rpm: 800, position: 0 },
      { rpm: 800, position: 0 },
    ]);
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), (share) => {
        const { rpm, position } = driveAt(share);
        expect(rpm).toBeGreaterThanOrEqual(800);
        expect(rpm).toBeLessThanOrEqual(3200);
        expect(Math.abs((rpm - 800) / 2400 - position / 70)).toBeLessThan(0.02);
      }),
    );
  });
});
