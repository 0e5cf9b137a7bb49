import type { Circuit } from "@fox-lamp/language";
import fc from "fast-check";
import { buildModel, type CircuitModel } from "../circuit";
import { faultsOf, placeFault } from "../faults";
import { simulateReading } from "../instruments";
import {
  answerLine,
  CodeMemory,
  type Devices,
  simulatedMeter,
  simulatedScan,
  simulatedScope,
  type Trace,
  traceOf,
  VirtualVehicle,
  windingCurrent,
} from "./index";

const volts = (trace: Trace, name: string): Float64Array => trace.channels.find((channel) => channel.name === name)?.samples ?? new Float64Array(0);
const mean = (list: ArrayLike<number>): number => Array.from(list).reduce((sum, value) => sum + value, 0) / list.length;
const extent = (list: ArrayLike<number>): [number, number] =>
  Array.from(list).reduce<[number, number]>(([low, high], value) => [Math.min(low, value), Math.max(high, value)], [1e9, -1e9]);
/** Rising crossings of a level. */
const crossings = (list: ArrayLike<number>, level: number): number => {
  let count = 0;
  for (let index = 1; index < list.length; index += 1) if ((list[index - 1] as number) < level && (list[index] as number) >= level) count += 1;
  return count;
};

function capture(
  circuit: Circuit,
  setup: Parameters<typeof traceOf>[2],
  faults: { id: string; ohms?: number; severity?: number }[],
  red: string,
  black = "bat-",
  seconds = 0.5,
  rate = 20_000,
): Trace {
  const model = buildModel([circuit]);
  const known = faultsOf(model);
  const placed = faults.map((fault) => placeFault(model, known, fault, "f"));
  return traceOf(model, model.circuits[0] as CircuitModel, setup, placed, { channels: [{ name: "a", red, black }], seconds, rate, seed: 7 });
}

describe("traces", () => {
  const hall: Circuit = { id: "cam", family: "hall-3w", with: { teeth: 6, missing: 1 } };
  const coil: Circuit = { id: "crank", family: "vr-2w", with: { teeth: 60, missing: 2 } };
  it("of a hall sensor are square, with its gap, at its rate", () => {
    const trace = volts(capture(hall, { key: "idle", rpm: 600 }, [], "sig@sensor", "bat-", 1), "a");
    const [low, high] = extent(trace);
    expect(low).toBeLessThan(0.3);
    expect(high).toBeGreaterThan(4.8);
    expect(Math.abs(crossings(trace, 2.5) - 50)).toBeLessThanOrEqual(1);
  });
  it("of an inductive sensor swing around nothing and grow with speed", () => {
    const slow = volts(capture(coil, { key: "crank", rpm: 200 }, [], "sig+@sensor", "sig-@sensor"), "a");
    const fast = volts(capture(coil, { key: "rev", rpm: 2000 }, [], "sig+@sensor", "sig-@sensor"), "a");
    expect(Math.abs(mean(slow))).toBeLessThan(0.05);
    expect(extent(fast)[1] / extent(slow)[1]).toBeGreaterThan(7);
  });
  it("agree with what an averaging meter shows, whatever the fault", () => {
    const model = buildModel([hall]);
    const known = faultsOf(model).filter(({ matters, during, kind }) => matters && during === null && kind !== "no-target");
    fc.assert(
      fc.property(fc.constantFrom(...known), (fault) => {
        const placed = [placeFault(model, known, { id: fault.id }, "f")];
        const setup = { key: "idle" as const, rpm: 720 };
        const shown = simulateReading(model, { meter: "volts-dc", red: "sig@sensor", black: "bat-", setup }, placed, "m") as number;
        const trace = traceOf(model, model.circuits[0] as CircuitModel, setup, placed, {
          channels: [{ name: "a", red: "sig@sensor", black: "bat-" }],
          seconds: 1,
          rate: 6000,
          seed: 3,
        });
        // A gap holds the second extreme longer than the duty says: one tooth of six.
        const swing = extent(volts(trace, "a"));
        expect(Math.abs(mean(volts(trace, "a")) - shown)).toBeLessThan(0.05 + 0.12 * (swing[1] - swing[0]));
      }),
      { numRuns: 25 },
    );
  });
  it("of a knock sensor ring after a tap and are still otherwise", () => {
    const knock: Circuit = { id: "k", family: "knock-2w" };
    const ring = volts(capture(knock, { stimulus: { kind: "tap" } }, [], "sig@sensor", "bat-", 0.5, 50_000), "a");
    const still = volts(capture(knock, {}, [], "sig@sensor", "bat-", 0.1, 50_000), "a");
    expect(extent(ring)[1] - extent(ring)[0]).toBeGreaterThan(0.3);
    expect(extent(still)[1] - extent(still)[0]).toBeLessThan(0.06);
    expect(mean(ring)).toBeCloseTo(mean(still), 1);
  });
  it("of an oxygen sensor switch about once a second", () => {
    const trace = volts(capture({ id: "o", family: "oxygen-narrow" }, { key: "idle" }, [], "sig@sensor", "bat-", 20, 200), "a");
    expect(crossings(trace, 0.45)).toBeGreaterThan(10);
    expect(crossings(trace, 0.45)).toBeLessThan(30);
  });
  it("of an air-flow sensor have one hump at a snap", () => {
    const trace = volts(capture({ id: "m", family: "maf-voltage" }, { key: "idle", stimulus: { kind: "snap" } }, [], "sig@sensor", "bat-", 2, 1000), "a");
    const top = trace.indexOf(Math.max(...trace));
    expect(top / 1000).toBeGreaterThan(0.5);
    expect(top / 1000).toBeLessThan(1);
    expect(Math.max(...trace)).toBeGreaterThan((trace[0] as number) + 0.8);
  });
  it("of a worn track drop out while it is swept, and only then", () => {
    const tps: Circuit = { id: "t", family: "potentiometer-3w" };
    const worn = [{ id: "t/sensor/noisy", ohms: 5e6 }];
    const swept = volts(capture(tps, { stimulus: { kind: "sweep" } }, worn, "sig@module", "bat-", 4, 2000), "a");
    expect(Array.from(swept).filter((value) => value < 0.4).length).toBeGreaterThan(20);
    expect(extent(volts(capture(tps, {}, worn, "sig@module"), "a"))[0]).toBeGreaterThan(0.5);
  });
  it("of a cranking battery dip at first and ripple with the compressions", () => {
    const battery = volts(capture({ id: "b", family: "battery-crank" }, { key: "crank" }, [], "bat+", "bat-", 1.5, 2000), "a");
    expect(battery[0] as number).toBeLessThan(mean(battery.slice(1000)) - 0.8);
    const late = battery.slice(1000);
    expect(extent(late)[1] - extent(late)[0]).toBeGreaterThan(0.4);
  });
  it("repeat for a seed, lose their average on AC coupling, and refuse the impossible", () => {
    const again = (): Trace => capture(coil, { key: "idle" }, [], "sig+@sensor", "sig-@sensor", 0.01);
    expect(again()).toEqual(again());
    const model = buildModel([{ id: "k", family: "knock-2w" }]);
    const request = { channels: [{ name: "a", red: "sig@sensor", black: "bat-" }], seconds: 0.1, rate: 1000, seed: 1, coupling: "ac" as const };
    expect(Math.abs(mean(volts(traceOf(model, model.circuits[0] as CircuitModel, {}, [], request), "a")))).toBeLessThan(1e-9);
    expect(() => traceOf(model, model.circuits[0] as CircuitModel, {}, [], { ...request, seconds: 0 })).toThrow(RangeError);
  });
  it("show a winding's current rising and falling by its own time constant", () => {
    const amps = windingCurrent(12, 10, 0.02, 100, 0.5, 0.1, 100_000);
    expect(Math.max(...amps)).toBeLessThan(1.2);
    expect(Math.max(...amps)).toBeGreaterThan(1);
    expect(windingCurrent(12, 10, 0.02, 0, 1, 0.2, 10_000).at(-1)).toBeCloseTo(1.2, 3);
  });
});

describe("the module's code memory", () => {
  const watch = (kind: "low" | "correlation", failing: boolean) => [{ circuit: "x", code: "P1", kind, failing }];
  it("sets an electrical code at once, once it has lasted, with its freeze frame", () => {
    const memory = new CodeMemory();
    memory.update(watch("low", true), 0, () => ({ engine: "0 rpm" }));
    expect(memory.codes()).toEqual([]);
    memory.update(watch("low", true), 0.5, () => ({ engine: "800 rpm" }));
    expect(memory.codes()).toEqual([{ code: "P1", status: "current", freezeFrame: { engine: "800 rpm" } }]);
    expect(memory.lamp()).toBe(true);
    memory.newTrip();
    expect(memory.codes()[0]?.status).toBe("current");
    memory.update(watch("low", false), 2, () => ({}));
    memory.newTrip();
    expect(memory.codes()[0]?.status).toBe("history");
    memory.clear();
    expect(memory.codes()).toEqual([]);
  });
  it("holds a comparison back as pending until the second trip", () => {
    const memory = new CodeMemory();
    const trip = (from: number): void => {
      memory.update(watch("correlation", true), from, () => ({}));
      memory.update(watch("correlation", true), from + 1, () => ({}));
    };
    trip(0);
    expect(memory.codes()[0]?.status).toBe("pending");
    expect(memory.lamp()).toBe(false);
    memory.newTrip();
    trip(10);
    expect(memory.codes()[0]?.status).toBe("current");
  });
});

describe("a virtual vehicle", () => {
  const bus: Circuit[] = [
    { id: "busA", family: "reference-bus" },
    { id: "map", family: "pressure-3w", shares: { ref: "busA" }, codes: { low: "P0107", high: "P0108" } },
    { id: "tps", family: "potentiometer-3w", shares: { ref: "busA" }, codes: { low: "P0122", high: "P0123" } },
  ];
  const car = (circuits: Circuit[], faults: { id: string; ohms?: number }[] = [], consequences = {}): VirtualVehicle =>
    new VirtualVehicle({ circuits, faults, seed: 5, consequences });
  it("has no codes while it is sound, in any key state", () => {
    const sound = car([
      ...bus,
      { id: "ect", family: "thermistor-2w" },
      { id: "cam", family: "hall-3w" },
      { id: "o2", family: "oxygen-narrow" },
      { id: "purge", family: "solenoid-2w" },
      { id: "pedal", family: "dual-track" },
    ]);
    for (const key of ["on", "crank", "idle", "rev"] as const) {
      sound.key(key);
      sound.run(3);
    }
    expect(sound.codes()).toEqual([]);
    expect(sound.lamp()).toBe(false);
  });
  it("sets a code in every sensor when one branch takes the shared reference down", () => {
    const shorted = car(bus, [{ id: "map/wire:ref/short-ground", ohms: 1 }]);
    shorted.key("on");
    shorted.run(2);
    expect(
      shorted
        .codes()
        .map(({ code }) => code)
        .sort(),
    ).toEqual(["P0107", "P0122"]);
    expect(shorted.codes()[0]?.freezeFrame).toHaveProperty("engine", "0 rpm");
  });
  it("sets follow-on codes when a cam signal is lost", () => {
    const lost = car([{ id: "cam", family: "hall-3w", codes: { "no-activity": "P0340" } }], [{ id: "cam/sensor/dead" }], { cam: ["P0011"] });
    lost.key("idle");
    lost.run(3);
    expect(lost.codes().map(({ code, status }) => `${code} ${status}`)).toEqual(["P0340 current", "P0011 pending"]);
  });
  it("notices a broken winding and a broken heater", () => {
    const broken = car(
      [
        { id: "purge", family: "solenoid-2w" },
        { id: "o2", family: "oxygen-narrow" },
      ],
      [{ id: "purge/coil/open" }, { id: "o2/heater/open" }],
    );
    broken.key("on");
    broken.run(2);
    expect(broken.codes().map(({ code }) => code)).toEqual(["PURGE-CIRCUIT", "O2-HEATER"]);
  });

  const devices = (vehicle: VirtualVehicle): Devices => ({ scan: simulatedScan(vehicle), meter: simulatedMeter(vehicle), scope: simulatedScope(vehicle) });
  const ask = async (vehicle: VirtualVehicle, request: object): Promise<Record<string, unknown>> =>
    JSON.parse(await answerLine(JSON.stringify(request), devices(vehicle))) as Record<string, unknown>;
  it("speaks the adapter protocol", async () => {
    const shorted = car(bus, [{ id: "map/wire:ref/short-ground", ohms: 1 }]);
    shorted.key("on");
    shorted.run(2);
    expect(await ask(shorted, { id: 1, do: "codes" })).toMatchObject({ id: 1, ok: true, codes: [{ code: "P0107" }, { code: "P0122" }] });
    expect(await ask(shorted, { id: 2, do: "live", names: ["map.sig"] })).toMatchObject({ ok: true, live: [{ name: "map.sig", unit: "kPa" }] });
    const measured = await ask(shorted, { id: 3, do: "measure", measurement: { circuit: "map", meter: "volts-dc", red: "ref@sensor", black: "bat-" } });
    expect(measured["value"]).toBeLessThan(0.5);
    const seen = await ask(shorted, {
      id: 4,
      do: "capture",
      circuit: "map",
      channels: [{ name: "ref", red: "ref@sensor", black: "bat-" }],
      seconds: 0.01,
      rate: 1000,
    });
    expect(seen).toMatchObject({ ok: true, rate: 1000 });
    expect((seen["channels"] as { volts: number[] }[])[0]?.volts).toHaveLength(10);
    await ask(shorted, { id: 5, do: "clear" });
    expect(await ask(car(bus), { id: 6, do: "command", circuit: "map", on: true })).toEqual({ id: 6, ok: false, message: "map has nothing the module drives" });
  });
  it("answers what it cannot read with one sentence", async () => {
    const sound = car(bus);
    expect(JSON.parse(await answerLine("{ no", devices(sound)))).toMatchObject({ id: null, ok: false });
    expect(await ask(sound, { id: 8, do: "dance" })).toMatchObject({ id: 8, ok: false });
    expect(await ask(sound, { id: 9, do: "measure", measurement: { circuit: "map", meter: "volts-dc", red: "sig@moon", black: "bat-" } })).toMatchObject({
      ok: false,
      message: expect.stringContaining("sig@moon"),
    });
  });
});
