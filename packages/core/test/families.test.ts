import type { Circuit, Setup } from "@fox-lamp/language";
import fc from "fast-check";
import { refusalOf } from "../../language/test/refusal";
import { buildModel, type CircuitModel } from "../src/circuit";
import { diagnoseJob } from "../src/diagnosis";
import { faultsOf, HINTS, placeFault, priorWeight } from "../src/faults";
import { blownJumpers, harmOf, simulateReading } from "../src/instruments";
import { generateTests, measurementOf } from "../src/procedures";

function value(
  circuits: Circuit | Circuit[],
  measurement: object,
  faults: { id: string; ohms?: number; severity?: number; direction?: number }[] = [],
): number | string {
  const model = buildModel(Array.isArray(circuits) ? circuits : [circuits]);
  const known = faultsOf(model);
  const placed = faults.map((fault) => placeFault(model, known, fault, "f"));
  const shown = simulateReading(model, measurement as never, placed, "m");
  if (typeof shown === "object") throw new Error(`${JSON.stringify(shown)} is no single value`);
  return shown;
}
const volts = (red: string, black = "bat-", setup: Setup = {}) => ({ meter: "volts-dc", red, black, setup });

describe("engine states", () => {
  const battery: Circuit = { id: "b", family: "battery-crank" };
  it("sag the battery and lift the block while cranking, and charge while running", () => {
    expect(value(battery, volts("bat+", "bat-", { key: "crank" }))).toBeGreaterThan(9.6);
    expect(value(battery, volts("bat+", "bat-", { key: "crank" }))).toBeLessThan(11);
    expect(value(battery, volts("engine", "bat-", { key: "crank" }))).toBeGreaterThan(0.1);
    expect(value(battery, volts("engine", "bat-", { key: "crank" }))).toBeLessThan(0.3);
    expect(value(battery, volts("bat+", "bat-", { key: "idle" }))).toBeGreaterThan(13.5);
  });
  it("show a weak battery and a dirty engine ground under load, not at rest", () => {
    expect(value(battery, volts("bat+", "bat-", { key: "crank" }), [{ id: "b/battery/weak", severity: 0.8 }])).toBeLessThan(9);
    expect(value(battery, volts("engine", "bat-"), [{ id: "b/ground:engine/dirty", ohms: 0.02 }])).toBeLessThan(0.05);
    expect(value(battery, volts("engine", "bat-", { key: "crank" }), [{ id: "b/ground:engine/dirty", ohms: 0.02 }])).toBeGreaterThan(1.5);
  });
  it("feed from the switched supply, dead with the key off, through a fuse that blows", () => {
    const valve: Circuit = { id: "v", family: "solenoid-2w" };
    expect(value(valve, volts("feed@sensor"))).toBeGreaterThan(12);
    expect(value(valve, volts("feed@sensor", "bat-", { key: "off" }))).toBeLessThan(0.1);
    expect(value(valve, volts("feed@sensor"), [{ id: "v/wire:feed/short-ground", ohms: 0.1 }])).toBeLessThan(0.1);
    expect(value(valve, volts("bat+"), [{ id: "v/wire:feed/short-ground", ohms: 0.1 }])).toBeGreaterThan(12);
  });
});

describe("circuits that move", () => {
  const hall = (extra = {}): Circuit => ({ id: "h", family: "hall-3w", with: { perRev: 24, ...extra } });
  const idle: Setup = { key: "idle", rpm: 600 };
  it("show an averaging meter half the feed, a counter the rate, and the duty", () => {
    expect(value(hall(), volts("sig@sensor", "bat-", idle))).toBeGreaterThan(2.3);
    expect(value(hall(), volts("sig@sensor", "bat-", idle))).toBeLessThan(2.8);
    expect(value(hall(), { meter: "hertz", red: "sig@sensor", black: "bat-", setup: idle })).toBeCloseTo(120, 6);
    expect(value(hall({ duty: 30 }), { meter: "duty", red: "sig@sensor", black: "bat-", setup: idle })).toBeCloseTo(30, 6);
    expect(value(hall(), { meter: "scan", red: "sig@module", unit: "rpm", setup: idle })).toBe(600);
  });
  it("average between their levels at any duty", () => {
    fc.assert(
      fc.property(fc.integer({ min: 5, max: 95 }), (duty) => {
        const [high, low] = [
          value(hall(), volts("sig@sensor", "bat-", { truth: { level: "high" } })),
          value(hall(), volts("sig@sensor", "bat-", { truth: { level: "low" } })),
        ] as [number, number];
        expect(value(hall({ duty }), volts("sig@sensor", "bat-", idle))).toBeCloseTo(low + (duty / 100) * (high - low), 1);
      }),
      { numRuns: 15 },
    );
  });
  it.each([5, 8, 9, 10, 12])("work on a feed of %d V with a signal of the module's own", (feedV) => {
    expect(value(hall({ feedV }), volts("feed@sensor"))).toBeGreaterThan(0.95 * feedV);
    expect(value(hall({ feedV }), volts("sig@sensor", "bat-", { open: ["sensor"] }))).toBeCloseTo(5, 1);
    expect(value(hall({ feedV }), { meter: "scan", red: "sig@module", unit: "rpm", setup: idle }, [{ id: "h/wire:feed/open" }])).toBe(0);
  });
  it("source their signal where they are built so", () => {
    const source = hall({ output: "source" });
    expect(value(source, volts("sig@sensor", "bat-", { truth: { level: "high" } }))).toBeGreaterThan(4.5);
    expect(value(source, volts("sig@sensor", "bat-", { open: ["sensor"] }))).toBeLessThan(0.05);
  });
  it("inductive ones make more with speed, floating or biased, and nothing without a wheel", () => {
    const crank: Circuit = { id: "c", family: "vr-2w", with: { biasV: 2.5 } };
    const ac = (setup: Setup, faults = [] as { id: string; severity?: number }[]) =>
      value(crank, { meter: "volts-ac", red: "sig+@sensor", black: "sig-@sensor", setup }, faults) as number;
    expect(ac({ key: "idle" })).toBeGreaterThan(3 * ac({ key: "crank" }));
    expect(ac({ key: "idle" }, [{ id: "c/outside/no-target", severity: 1 }])).toBeLessThan(0.01);
    expect(value(crank, volts("sig+@sensor"))).toBeCloseTo(2.5, 1);
    expect(value({ ...crank, with: {} }, volts("sig+@sensor"))).toBeLessThan(0.1);
  });
  it("an oxygen cell shows the bias cold, switches warm, and answers a rich mixture unless it is stuck", () => {
    const cell: Circuit = { id: "o", family: "oxygen-narrow", with: { wires: 4 } };
    expect(value(cell, volts("sig@sensor"))).toBeCloseTo(0.45, 1);
    expect(value(cell, volts("sig@sensor", "gnd@sensor", { key: "idle", truth: { level: "high" } }))).toBeGreaterThan(0.75);
    const lean = { key: "idle" as const, truth: { level: "high" as const } };
    expect(value(cell, volts("sig@sensor", "gnd@sensor", lean), [{ id: "o/sensor/stuck-low" }])).toBeLessThan(0.2);
    expect(value(cell, volts("sig@sensor", "gnd@sensor", lean), [{ id: "o/outside/true-value", direction: -1 }])).toBeGreaterThan(0.75);
    // Six ohms cold, up to twelve warm: from two amperes down to one.
    const drawn = value(cell, { meter: "amps-dc", red: "htr-feed@sensor", setup: {} });
    expect(drawn).toBeGreaterThan(1);
    expect(drawn).toBeLessThan(2);
    for (const wires of [1, 2, 3, 4]) expect(typeof value({ ...cell, with: { wires } }, volts("sig@sensor"))).toBe("number");
  });
  it("a track of two sums to its reference, or keeps its ratio, at every position", () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 100 }), fc.constantFrom(4, 6), (position, wires) => {
        const at = (pin: string, extra = {}) =>
          value(
            { id: "p", family: "dual-track", with: { wires, ...extra } },
            { meter: "scan", red: `${pin}@module`, setup: { truth: { position } } },
          ) as number;
        expect(at("sig1") + at("sig2")).toBeCloseTo(5, 0);
        expect(at("sig1", { ratio: 2 }) / at("sig2", { ratio: 2 })).toBeCloseTo(2, 0);
        expect(at("sig2", { opposed: false })).toBeCloseTo(at("sig2", { ratio: 2 }), 6);
        expect(at("sig2", { opposed: true, ratio: 2 })).toBeCloseTo(at("sig2", { ratio: 2 }), 6);
      }),
      { numRuns: 12 },
    );
  });
  it("a solenoid clicks while current flows", () => {
    const valve: Circuit = { id: "v", family: "solenoid-2w" };
    const listen = { meter: "listen", red: "part", setup: { stimulus: { kind: "command" } } };
    expect(value(valve, listen)).toBe("click");
    expect(value(valve, listen, [{ id: "v/coil/open" }])).toBe("no-click");
    expect(value(valve, listen, [{ id: "v/wire:ctl/open" }])).toBe("no-click");
  });
});

describe("a shared reference", () => {
  const at = (join: string): Circuit[] => [
    { id: "bus", family: "reference-bus", with: { vref: 5, limitA: 0.1 } },
    { id: "map", family: "pressure-3w", shares: { ref: "bus", gnd: "bus", join } },
    { id: "tps", family: "potentiometer-3w", shares: { ref: "bus", join } },
  ];
  it.each(["module", "S1"])("joined at %s: one branch to ground takes all down, unplugging cures only a fault behind the plug", (join) => {
    const ref = (setup: Setup, faults: { id: string; ohms?: number }[]) =>
      value(at(join), { circuit: "tps", ...volts("ref@sensor", "bat-", setup) }, faults) as number;
    expect(ref({}, [])).toBeCloseTo(5, 1);
    expect(ref({}, [{ id: "map/wire:ref/short-ground", ohms: 2 }])).toBeLessThan(0.5);
    expect(ref({ open: ["map:sensor"] }, [{ id: "map/wire:ref/short-ground", ohms: 2 }])).toBeLessThan(0.5);
    expect(ref({ open: ["map:sensor"] }, [{ id: "map/sensor/short", ohms: 2 }])).toBeCloseTo(5, 1);
    expect(ref({}, [{ id: "bus/module:ref/missing" }])).toBeLessThan(0.1);
  });
  it("is limited in current, not broken, by a load", () => {
    const loaded = value(at("S1"), {
      circuit: "tps",
      meter: "volts-dc",
      red: "ref@sensor",
      black: "bat-",
      setup: { open: ["tps:sensor"], add: [{ kind: "resistor", from: "ref@sensor", to: "bat-", ohms: 100 }] },
    });
    expect(loaded).toBeLessThan(5.03);
    expect(loaded).toBeGreaterThan(4.5);
  });
  it("names its own wire and regulator, and the trunk a branch leaves is not the branch's", () => {
    const ids = faultsOf(buildModel(at("S1"))).map(({ id }) => id);
    expect(ids).toEqual(
      expect.arrayContaining(["bus/wire:ref/open", "bus/contact:ref@module/open", "bus/module:ref/low", "bus/module:gnd/open", "map/wire:ref/open"]),
    );
    expect(ids).not.toContain("map/contact:ref@module/open");
    expect(ids).not.toContain("map/module:ref/missing");
    expect(faultsOf(buildModel(at("module"))).map(({ id }) => id)).toContain("map/contact:ref@module/open");
  });
  it("is diagnosed as one network: the guilty branch is named from the others' readings", () => {
    const circuits = at("S1");
    const fault = [{ id: "map/sensor/short", ohms: 3 }];
    const take = (measurement: { circuit: string; meter: "volts-dc"; red: string; black: string; setup: Setup }, id: string) => ({
      ...measurement,
      id,
      value: value(circuits, measurement, fault),
    });
    const readings = [
      take({ circuit: "tps", meter: "volts-dc", red: "ref@sensor", black: "bat-", setup: {} }, "r1"),
      take({ circuit: "tps", meter: "volts-dc", red: "ref@sensor", black: "bat-", setup: { open: ["map:sensor"] } }, "r2"),
    ];
    const { units } = diagnoseJob({ circuits, readings });
    expect(units[0]?.unit).toBe("map/sensor");
    expect(units[0]?.probability).toBeGreaterThan(0.8);
  });
  it.each<[string, Circuit[], string]>([
    [
      "a bus that is not there",
      [{ id: "map", family: "pressure-3w", shares: { ref: "bus" } }],
      'circuits[0].shares.ref: "bus" is not a circuit of family reference-bus; this file has none',
    ],
    ["a splice to nowhere", [{ id: "map", family: "pressure-3w", shares: { join: "S1" } }], "joins S1 but says no pin and bus"],
    [
      "a joint that is none",
      [
        { id: "bus", family: "reference-bus" },
        { id: "map", family: "pressure-3w", shares: { ref: "bus", join: "roof" } },
      ],
      '"roof" is no joint; expected "module" or a splice',
    ],
    [
      "a pin the circuit lacks",
      [
        { id: "bus", family: "reference-bus" },
        { id: "map", family: "pressure-3w", shares: { feed: "bus" } },
      ],
      'map has no pin "feed"',
    ],
    [
      "a signal",
      [
        { id: "bus", family: "reference-bus" },
        { id: "map", family: "pressure-3w", shares: { sig: "bus" } },
      ],
      "cannot be shared",
    ],
    [
      "another voltage",
      [
        { id: "bus", family: "reference-bus" },
        { id: "map", family: "pressure-3w", with: { vref: 8 }, shares: { ref: "bus" } },
      ],
      "8 V, but bus feeds it 5 V",
    ],
    [
      "two batteries",
      [
        { id: "a", family: "battery-crank" },
        { id: "b", family: "battery-crank" },
      ],
      "a car has one battery",
    ],
    ["a wheel without teeth", [{ id: "a", family: "hall-3w", with: { teeth: 2, missing: 2 } }], "2 missing of 2 teeth"],
    ["a second track above its feed", [{ id: "a", family: "dual-track", with: { ratio: 0.5 } }], "the second track would reach"],
  ])("refuses %s", (_name, circuits, message) => {
    expect(refusalOf(() => buildModel(circuits))).toContain(message);
  });
});

describe("harm is said before it happens", () => {
  const tps: Circuit = { id: "t", family: "potentiometer-3w" };
  const model = buildModel([tps]);
  it.each<[object, string]>([
    [
      { meter: "scan", red: "sig@module", setup: { open: ["sensor"], add: [{ kind: "jumper", from: "bat+", to: "sig@sensor" }] } },
      "Battery voltage on a signal pin",
    ],
    [{ meter: "lamp", red: "bat+", black: "ref@sensor" }, "can overload the module's pin"],
    [{ meter: "ohms", red: "sig@sensor", black: "gnd@sensor" }, "key off"],
  ])("%j", (measurement, message) => {
    expect(harmOf(model, measurement as never).join(" ")).toContain(message);
  });
  it("blows the jumper's fuse instead of the module", () => {
    const measurement = { meter: "scan", red: "sig@module", setup: { open: ["sensor"], add: [{ kind: "jumper", from: "bat+", to: "gnd@sensor" }] } };
    expect(blownJumpers(model, measurement as never, [], "m")[0]).toContain("the fuse of the jumper bat+ to gnd@sensor blows");
    expect(
      blownJumpers(
        model,
        { meter: "scan", red: "sig@module", setup: { open: ["sensor"], add: [{ kind: "jumper", from: "ref@sensor", to: "sig@sensor" }] } } as never,
        [],
        "m",
      ),
    ).toEqual([]);
  });
  it("resistance on a live line, and a range that is too low, are readings", () => {
    expect(value(tps, { meter: "ohms", red: "ref@sensor", black: "gnd@sensor", setup: {} })).toBe("live");
    expect(value(tps, { meter: "ohms", red: "sig@part", black: "gnd@part", setup: { key: "off", open: ["sensor"] } }, [{ id: "t/sensor/open" }])).toBe("OL");
    expect(value(tps, { meter: "lamp", red: "bat+", black: "gnd@sensor", setup: { open: ["sensor"] } })).toBe("lit");
    expect(
      value(tps, volts("gnd@sensor", "bat-", { open: ["sensor"], add: [{ kind: "led-lamp", from: "bat+", to: "gnd@sensor" }] }), [
        { id: "t/wire:gnd/resistance", ohms: 20 },
      ]),
    ).toBeLessThan(0.1);
  });
});

describe("instruments mislead as they do", () => {
  const hall: Circuit = { id: "h", family: "hall-3w" };
  const idle: Setup = { key: "idle" };
  it("an average-responding AC range shows more than a true one on a square wave, and both fall off with the rate", () => {
    const ac = (kind: string, setup = idle): number => value(hall, { meter: "volts-ac", ac: kind, red: "sig@sensor", black: "bat-", setup }) as number;
    expect(ac("average-responding") / ac("true-rms")).toBeCloseTo(1.11, 2);
    expect(ac("true-rms", { key: "rev", rpm: 20_000 })).toBeLessThan(0.8 * ac("true-rms"));
  });
  it("a range that is too low shows OL", () => {
    const part = { meter: "ohms", red: "sig@part", black: "gnd@part", setup: { key: "off", open: ["sensor"], truth: { temperature: 0 } } };
    expect(value({ id: "e", family: "thermistor-2w" }, { ...part, range: 2000 })).toBe("OL");
    expect(value({ id: "e", family: "thermistor-2w" }, { ...part, range: 20_000 })).toBeCloseTo(6700, -2);
  });
  it("a recording catches a slow change and misses a fast one", () => {
    const model = (family: string) => buildModel([{ id: "x", family }]);
    const record = { meter: "volts-dc", red: "sig@sensor", black: "bat-", record: "min-max", setup: idle } as never;
    const slow = simulateReading(model("oxygen-narrow"), record, [], "m") as { min: number; max: number };
    const fast = simulateReading(model("hall-3w"), record, [], "m") as { min: number; max: number };
    expect(slow.max - slow.min).toBeGreaterThan(0.5);
    expect(fast.max - fast.min).toBeLessThan(0.01);
  });
  it("the module reports its substitute for a level it does not believe", () => {
    const ect: Circuit = { id: "e", family: "thermistor-2w", with: { substitute: 80 } };
    const scan = { meter: "scan", red: "sig@module", unit: "degC", setup: { truth: { temperature: 20 } } };
    expect(value(ect, scan)).toBeCloseTo(20, 0);
    expect(value(ect, scan, [{ id: "e/wire:sig/open" }])).toBe(80);
    expect(value(ect, { ...scan, unit: "V" }, [{ id: "e/wire:sig/open" }])).toBeGreaterThan(4.9);
  });
});

describe("hints", () => {
  it("shift priors by what is known of the car, and sums stay one", () => {
    expect(priorWeight("contact:sig@sensor", "corroded", ["water"])).toBe(4 * priorWeight("contact:sig@sensor", "corroded"));
    expect(priorWeight("module:ref", "missing", [...HINTS])).toBe(priorWeight("module:ref", "missing"));
    const faults = faultsOf(buildModel([{ id: "x", family: "thermistor-2w" }]), ["water", "heat"]);
    expect(faults.reduce((sum, { prior }) => sum + prior, 0)).toBeCloseTo(1, 9);
  });
  it("move a diagnosis, and unknown words do not", () => {
    const odds = (hints: string[]): number =>
      diagnoseJob({ circuits: [{ id: "x", family: "thermistor-2w" }], readings: [], hints }).units.find(({ unit }) => unit === "x/contact:sig@sensor")
        ?.probability ?? 0;
    expect(odds(["water"])).toBeGreaterThan(1.3 * odds([]));
    expect(odds(["moonlight"])).toBeCloseTo(odds([]), 12);
  });
});

describe("generated tests follow the shop's policy", () => {
  const model = buildModel([{ id: "x", family: "potentiometer-3w" }]);
  const circuit = model.circuits[0] as CircuitModel;
  it("with resistors only, or without resistance tests", () => {
    const gentle = generateTests(model, circuit, {}, { bypass: "resistor", resistance: false }).map(measurementOf);
    expect(gentle.some(({ setup }) => (setup?.add ?? []).some(({ kind }) => kind === "jumper"))).toBe(false);
    expect(gentle.some(({ meter }) => meter === "ohms")).toBe(false);
  });
});
