import type { Reading } from "@fox-lamp/language";
import { confirmOf, type Told } from "../explanation/reasons";
import { stepsOf } from "../explanation/steps";
import { Session } from "../index";
import type { CircuitPosterior } from "../posterior/posterior";
import { decidingReadings } from "./deciding";
import { fitOf } from "./fit";
import { openCase } from "./open-case";
import { statusOf } from "./what-now";

const circuits = [{ id: "pedal", family: "dual-track", title: "Pedal", with: { track: 2110, opposed: true } }];
const at = (position: number) => ({ key: "on" as const, truth: { position } });
const unplugged = { key: "off" as const, open: ["sensor" as const], truth: { position: 100 } };
const scan = (id: string, red: string, position: number, value: number): Reading => ({ id, circuit: "pedal", meter: "scan", red, setup: at(position), value });
const ohms = (id: string, red: string, black: string, value: number): Reading => ({ id, circuit: "pedal", meter: "ohms", red, black, setup: unplugged, value });
const volts = (id: string, red: string, black: string, position: number, value: number): Reading => ({
  id,
  circuit: "pedal",
  meter: "volts-dc",
  red,
  black,
  setup: at(position),
  value,
});

/** 625 ohm in a throttle's ground, at the module's contact: its ground stands at 0.9 V, and no volt of that drops along the wire. */
const tps = [{ id: "tps", family: "potentiometer-3w" }];
const lifted = (id: string, meter: "scan" | "volts-dc", red: string, black: string | null, value: number, position = 0): Reading => ({
  id,
  circuit: "tps",
  meter,
  red,
  ...(black === null ? {} : { black }),
  setup: at(position),
  value,
});
const LIFTED: Reading[] = [
  lifted("r1", "scan", "sig@module", null, 1.43),
  lifted("r2", "scan", "sig@module", null, 4.88, 100),
  lifted("r3", "volts-dc", "gnd@sensor", "bat-", 0.92),
  lifted("r4", "volts-dc", "ref@sensor", "gnd@sensor", 4.03),
  lifted("r5", "volts-dc", "gnd@sensor", "gnd@module", -0.001),
  lifted("r6", "volts-dc", "gnd@sensor", "gnd@module", -0.001),
];

/** A second track whose wiper has broken off, and nothing odd about the rest. */
const PLAIN: Reading[] = [
  scan("r1", "sig1@module", 0, 0.8),
  scan("r2", "sig2@module", 0, 0.01),
  scan("r3", "sig1@module", 100, 4.2),
  scan("r4", "sig2@module", 100, 0.01),
  volts("r5", "ref2@sensor", "gnd2@sensor", 0, 5.0),
  volts("r6", "sig2@sensor", "bat-", 0, 0.03),
  ohms("r7", "ref2@part", "gnd2@part", 2080),
];

describe("how well the readings fit whoever leads", () => {
  it("asks once more for what lies farthest off where the rest fits loosely as well", () => {
    const opened = openCase({ circuits: tps, readings: LIFTED }, new Session());
    const [posterior, id] = [opened.standing().posterior as CircuitPosterior, opened.numbered[3]?.id ?? ""];
    const asked = decidingReadings(opened, opened.standing(), { probability: 0.005, worst: [id] }).find(({ odd }) => odd);
    expect(asked && posterior.observations[asked.index]?.id).toBe(id);
    const told: Told = { readings: new Map(LIFTED.map((reading, place) => [opened.numbered[place]?.id ?? "", reading])), nameOf: () => "r4" };
    expect(asked && confirmOf(posterior, asked, told).why).toBe(
      "4.03 V at r4 lies far from what this verdict expects, and the others fit it loosely. Read it once more before anything is replaced.",
    );
    expect(decidingReadings(opened, opened.standing(), { probability: 0.05, worst: [id] }).some(({ odd }) => odd)).toBe(false);
  });
  it("proves nobody whom they fit beyond any chance, names who comes nearest, and what fits worst", () => {
    const opened = openCase({ circuits: tps, readings: LIFTED }, new Session());
    expect(statusOf(opened)).toBe("proven");
    expect(statusOf({ ...opened, fit: () => ({ probability: 1e-7, worst: ["#5"] }) })).toBe("unknown-fault");
    const words = { part: true, partner: null, off: null, open: [], seen: [], doubtful: [], separate: null, rules: [], names: ["Pedal or throttle sensor"] };
    expect(stepsOf({ ...words, status: "unknown-fault", misfits: ["r4", "r0"] })[1]).toBe(
      "Nearest comes pedal or throttle sensor, but r4 and r0 fit it badly: read again first.",
    );
    expect(stepsOf({ ...words, status: "unknown-fault", misfits: [] }).join(" ")).not.toContain("Nearest");
  });
  it("knows that a terminal was cured when its plug was pushed", () => {
    const shut = (id: string, value: number, pushed = false): Reading => ({
      id,
      circuit: "tps",
      meter: "scan",
      red: "sig@module",
      setup: { truth: { position: 0 }, ...(pushed ? { stimulus: { kind: "wiggle", at: "sensor" } } : {}) },
      value,
    });
    const volts = (id: string, red: string, value: number): Reading => ({ id, circuit: "tps", meter: "volts-dc", red, black: "bat-", setup: {}, value });
    // Lifted by a bad ground terminal; once pushed it stays as it should.
    const readings = [
      shut("r1", 1.55),
      shut("r2", 1.56),
      volts("r3", "gnd@sensor", 0.02),
      volts("r4", "ref@sensor", 5.01),
      shut("r5", 0.61, true),
      shut("r6", 0.61),
    ];
    const opened = openCase({ circuits: tps, readings }, new Session());
    expect(opened.standing().group).toContain("tps/contact:gnd@sensor");
    expect(fitOf(opened, opened.standing())?.probability).toBeGreaterThan(0.05);
    expect(statusOf(opened)).not.toBe("unknown-fault");
  });
  it("is an ordinary chance where the fault is one that is known", () => {
    const opened = openCase({ circuits, readings: PLAIN }, new Session());
    const fit = fitOf(opened, opened.standing());
    expect(fit?.probability).toBeGreaterThan(0.05);
    expect(fit?.worst.length ?? 9).toBeLessThanOrEqual(2);
  });
  it("is not asked where the fault comes and goes, nor of two numbers", () => {
    const passing = openCase({ circuits, readings: PLAIN, intermittent: true }, new Session());
    expect(fitOf(passing, passing.standing())).toBeNull();
    const few = openCase({ circuits, readings: PLAIN.slice(1, 2) }, new Session());
    expect(fitOf(few, few.standing())).toBeNull();
  });
});
