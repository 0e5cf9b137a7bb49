import type { Circuit, Reading, Setup } from "@fox-lamp/language";
import { buildModel, completeSheets } from "../src/circuit";
import { circuitsOfCode } from "../src/codes";
import { type DiagnosedJob, diagnoseJob, Session } from "../src/diagnosis";
import { measureFile } from "../src/files";
import { seededRandom } from "../src/numeric";
import { placedCar } from "../src/practice";
import { typedVolts as volts } from "./typed-volts";

/** What readings from outside once brought about, each as it should be. */
const session = new Session();
const diagnose = (job: DiagnosedJob) => diagnoseJob(job, session);
const odds = (job: DiagnosedJob, unit: string): number => diagnose(job).units.find((one) => one.unit === unit)?.probability ?? 0;

describe("repetition", () => {
  it("of a plausible pressure proves nothing about the sensor", () => {
    const circuits = completeSheets([
      {
        id: "frp",
        family: "pressure-3w",
        with: {
          transfer: [
            [0, 0.5],
            [20_000, 4.5],
          ],
        },
      },
    ]);
    const once = volts("frp", "sig@sensor", 2.31, {}, "gnd@sensor");
    const [first, sixth] = [1, 6].map((count) => odds({ circuits, readings: Array.from({ length: count }, () => once) }, "frp/sensor")) as [number, number];
    expect(sixth).toBeLessThan(first + 0.05);
  });
});

describe("a sheet that is silent", () => {
  const hall = [{ id: "cmp", family: "hall-3w" }];
  it("is not read as another kind's once a lead was on a pin that kind does not have", () => {
    // 12 V where a module's 5 V would be: a feed from the fuse, were it not measured at the module's own plug.
    const atPlug = volts("cmp", "feed@module", 12.1, { key: "on" });
    const atSensor = volts("cmp", "feed@sensor", 12.1, { key: "on" });
    const feed = (readings: Reading[]) => odds({ circuits: hall, readings }, "cmp/wire:feed") + odds({ circuits: hall, readings }, "cmp/module:supply");
    expect(feed([atSensor])).toBeLessThan(0.2);
    expect(feed([atSensor, atPlug])).toBeGreaterThan(0.5);
  });
});

describe("a winding so short that the running engine blows its fuse", () => {
  it("leaves the fuse blown, whatever is done on the bench", () => {
    const setups: Setup[] = [{ key: "on" }, { key: "on", stimulus: { kind: "command" } }, { key: "idle" }];
    const shown = measureFile({
      circuits: [{ id: "ppv", family: "solenoid-2w" }],
      faults: [{ id: "ppv/coil/short", ohms: 0.6 }],
      measurements: setups.map((setup) => ({ circuit: "ppv", meter: "volts-dc", red: "feed@sensor", black: "bat-", setup })),
    });
    // Over the winding the line shows what the driver watches its wire with, no battery.
    for (const { value } of shown) expect(value).toBeLessThan(3);
  });
});

describe("a first reading", () => {
  it("that cannot be is not said to disagree with others", () => {
    const circuits: Circuit[] = [{ id: "ect", family: "thermistor-2w" }];
    const slipped: Reading = { circuit: "ect", meter: "scan", red: "sig@module", setup: { truth: { temperature: 15 } }, value: 3030 };
    const why = (readings: Reading[]): string =>
      diagnose({ circuits, readings })
        .doubtful.map((doubt) => doubt.why)
        .join(" ");
    expect(why([slipped])).toContain("is hardly anything this circuit shows");
    expect(why([volts("ect", "sig@sensor", 3.0, { truth: { temperature: 15 } }), slipped])).toContain("does not fit the other readings");
  });
});

describe("a doubtful reading", () => {
  it("is not said to fit no fault while one would explain it", () => {
    const circuits: Circuit[] = [{ id: "o2", family: "oxygen-narrow" }];
    const at = (red: string, value: number, setup: Setup): Reading => ({
      circuit: "o2",
      meter: "volts-dc",
      red,
      black: "bat-",
      setup: { key: "idle", ...setup },
      value,
    });
    const { doubtful, units } = diagnose({
      circuits,
      readings: [at("htr-feed@sensor", 13.7, { open: ["sensor"] }), at("htr-feed@sensor", 9, {}), at("htr-ctl@sensor", 0.1, {})],
    });
    expect(units[0]?.unit).toBe("o2/wire:htr-feed");
    expect(doubtful).toHaveLength(1);
    expect(doubtful[0]?.why).toContain("would fit if it is the heater feed wire");
  });
});

describe("what a scope averages", () => {
  const avg = (circuits: Circuit[], reading: Omit<Reading, "value">): number => {
    const car = placedCar({ circuits: completeSheets(circuits), faults: [] }, seededRandom(3), seededRandom(4));
    const values = Array.from({ length: 20 }, () => car.read(reading as Reading));
    const averages = values.map((value) => (typeof value === "object" ? (value.avg ?? Number.NaN) : Number.NaN));
    return averages.reduce((sum, value) => sum + value, 0) / averages.length;
  };
  it("of a pulsed wire is its share of the time, not the middle of its ends", () => {
    // Off for 80 of 100: four fifths of some 12 V, and a little of the driver's own.
    const valve: Circuit = { id: "pv", family: "solenoid-2w", with: { duty: 80, coil: [20, 30] } };
    expect(
      avg([valve], { circuit: "pv", meter: "capture", red: "ctl@sensor", black: "bat-", setup: { key: "on", stimulus: { kind: "command" } } }),
    ).toBeGreaterThan(9);
  });
  it("of what swings about a level is that level", () => {
    const knock: Circuit = { id: "ks", family: "knock-1w" };
    const wheel: Circuit = { id: "ws", family: "vr-2w" };
    expect(Math.abs(avg([knock], { circuit: "ks", meter: "capture", red: "sig@sensor", black: "bat-", setup: { stimulus: { kind: "tap" } } }))).toBeLessThan(
      0.05,
    );
    expect(Math.abs(avg([wheel], { circuit: "ws", meter: "capture", red: "sig+@sensor", black: "sig-@sensor", setup: { key: "crank" } }))).toBeLessThan(0.1);
  });
});

describe("a value that is true", () => {
  it("leaves the circuit sound: what is said is how sure that is, not how likely nothing at all is the matter", () => {
    const circuits = [{ id: "ect", family: "thermistor-2w" }];
    const readings: Reading[] = [
      { circuit: "ect", meter: "scan", red: "sig@module", setup: { truth: { temperature: 113 } }, value: 0.3 },
      volts("ect", "bat+", 10.54, { key: "crank" }),
      volts("ect", "chassis", 0.0108),
      // A module on a bad ground of its own would lift this one.
      volts("ect", "gnd@sensor", 0.021),
      { circuit: "ect", meter: "scan", red: "sig@module", setup: { truth: { temperature: 113 }, stimulus: { kind: "wiggle", at: "sensor" } }, value: 0.3 },
    ];
    const { verdict } = diagnose({ circuits, readings });
    expect([null, "ect/outside"]).toContain(verdict.unit);
    expect(verdict.status).not.toBe("proven");
    expect(verdict.probability).toBeGreaterThan(0.85);
  });
});

describe("the car", () => {
  it("with a good battery accuses no strap", () => {
    const circuits: Circuit[] = [{ id: "bat", family: "battery-crank" }];
    const readings = [volts("bat", "bat+", 12.4, { key: "on" }), volts("bat", "bat+", 11.1, { key: "crank" })];
    expect(odds({ circuits, readings }, "bat/ground:engine")).toBeLessThan(0.6);
    expect(diagnose({ circuits, readings }).verdict.status).not.toBe("proven");
  });
  it("has one battery and one body, whichever circuit is measured", () => {
    const circuits: Circuit[] = [
      { id: "tps", family: "potentiometer-3w" },
      { id: "ect", family: "thermistor-2w" },
    ];
    const readings = [volts("tps", "gnd@sensor", 0.6), volts("ect", "gnd@sensor", 0.61), volts("tps", "chassis", 0.58)];
    const { units, doubtful } = diagnose({ circuits, readings });
    expect(units.filter(({ unit }) => unit === "car/ground:chassis")).toHaveLength(1);
    expect(units[0]?.unit).toBe("car/ground:chassis");
    expect(doubtful).toEqual([]);
  });
});

describe("codes", () => {
  const circuits: Circuit[] = [
    { id: "kn1", family: "knock-1w", title: "Knock sensor 1" },
    { id: "kn2", family: "knock-1w", title: "Knock sensor 2" },
    { id: "o2b1", family: "oxygen-narrow", title: "Oxygen sensor bank 1 front" },
    { id: "o2b2", family: "oxygen-narrow", title: "Oxygen sensor bank 2 front" },
  ];
  it.each([
    ["P0332", ["kn2"]],
    ["P0327", ["kn1"]],
    ["P0135", ["o2b1"]],
    ["P0155", ["o2b2"]],
  ])("%s is charged to its own circuit alone", (code, ids) => {
    expect(circuitsOfCode(code, buildModel(circuits).circuits).map(({ circuit }) => circuit)).toEqual(ids);
  });
  it("never outweigh a measurement of the same thing, and what no verdict explains is listed", () => {
    const vvt: Circuit[] = [{ id: "vvt", family: "solenoid-2w", title: "Intake cam-phaser valve", with: { coil: [6, 10] } }];
    for (const ohms of [150, 4000, 60_000]) {
      const measured: Reading = { circuit: "vvt", meter: "ohms", red: "feed@part", black: "ctl@part", setup: { key: "off", open: ["sensor"] }, value: ohms };
      const { units, doubtful } = diagnose({ circuits: vvt, readings: [measured], codes: [{ code: "P0010", status: "current" }] });
      expect([ohms, units[0]?.unit]).toEqual([ohms, "vvt/coil"]);
      expect(doubtful).toEqual([]);
    }
    const open: Reading = { circuit: "vvt", meter: "ohms", red: "feed@part", black: "ctl@part", setup: { key: "off", open: ["sensor"] }, value: "OL" };
    const feed = volts("vvt", "feed@sensor", 12.2);
    const { verdict, unexplained } = diagnose({
      circuits: vvt,
      readings: [open, feed],
      codes: [
        { code: "P0010", status: "current" },
        { code: "P0118", status: "current" },
      ],
    });
    expect([verdict.status, verdict.unit]).toEqual(["proven", "vvt/coil"]);
    expect(unexplained).toEqual(["P0118"]);
  });
});

describe("what is noticed and known", () => {
  const circuits: Circuit[] = [{ id: "cks", family: "hall-3w", title: "Crankshaft sensor" }];
  const still: Reading = { circuit: "cks", meter: "notice", red: "tachometer", setup: { key: "crank" }, value: "still" };
  it("counts as a reading", () => {
    const nothing = (job: DiagnosedJob): number => diagnose(job).healthy ?? 0;
    expect(nothing({ circuits, readings: [still] })).toBeLessThan(0.5 * nothing({ circuits, readings: [] }));
    expect(nothing({ circuits, readings: [{ ...still, value: "moves" }] })).toBeGreaterThan(nothing({ circuits, readings: [] }));
  });
  it("asks for no idle of an engine that does not start", () => {
    const states = (job: DiagnosedJob): (string | undefined)[] => diagnose(job).next.map(({ setup }) => setup.key);
    expect(states({ circuits, readings: [], facts: { engine: "does-not-start" } })).not.toContain("idle");
  });
});

describe("a complaint that shows while one place is moved", () => {
  it("points to that place, and away from where moving did nothing", () => {
    const circuits: Circuit[] = [{ id: "ect", family: "thermistor-2w", inline: ["C1"] }];
    const moved = (at: string, value: number, symptom: boolean): Reading => ({
      circuit: "ect",
      meter: "scan",
      red: "sig@module",
      setup: { truth: { temperature: 20 }, stimulus: { kind: "wiggle", at } },
      value,
      symptom,
    });
    const readings = [moved("sensor", 2.7, false), moved("C1", 4.98, true), moved("module", 2.7, false)];
    const { units } = diagnose({ circuits, readings, intermittent: true });
    expect(units.slice(0, 2).every(({ unit }) => unit.endsWith("@C1"))).toBe(true);
  });
});
