import type { Reading } from "@fox-lamp/language";
import { stepsOf } from "../explanation/steps";
import { diagnoseJob, Session } from "../index";
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

/** The second track's ground has no contact in the plug; its wiper is built with a resistor of a kilo-ohm in series, which no sheet says. */
const ODD: Reading[] = [
  { id: "r0", circuit: "pedal", meter: "scan", red: "sig2@module", setup: { key: "idle" }, value: 4.81 },
  { id: "r1", circuit: "pedal", meter: "scan", red: "sig1@module", setup: { key: "idle" }, value: 0.53 },
  scan("r2", "sig2@module", 100, 4.77),
  volts("r3", "gnd2@sensor", "bat-", 0, 0.036),
  volts("r4", "ref2@sensor", "bat-", 0, 4.88),
  { id: "r5", circuit: "pedal", meter: "scan", red: "sig2@module", setup: { key: "on", open: ["sensor"] }, value: 0.02 },
  volts("r6", "ref1@sensor", "gnd1@sensor", 0, 4.94),
  ohms("r7", "sig2@part", "gnd2@part", 1387),
  scan("r8", "sig2@module", 100, 4.77),
  scan("r9", "sig1@module", 100, 3.92),
  ohms("r10", "sig2@part", "gnd2@part", 1406),
  volts("r11", "sig1@sensor", "bat-", 100, 3.96),
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
  it("is said of a leader that is merely the least bad: what lies farthest off is asked for once more", () => {
    const { verdict, confirm = [] } = diagnoseJob({ circuits, readings: ODD }, new Session());
    expect(verdict.unit).toBe("pedal/sensor");
    expect(confirm.at(-1)).toMatchObject({
      reading: "r4",
      why: "4.88 V at r4 lies far from what this verdict expects, and the others fit it loosely. Read it once more before anything is replaced.",
    });
  });
  it("proves nobody whom they fit beyond any chance, names who comes nearest, and what fits worst", () => {
    const opened = openCase({ circuits, readings: ODD }, new Session());
    expect(statusOf(opened)).toBe("proven");
    expect(statusOf({ ...opened, fit: () => ({ probability: 1e-7, worst: ["#5"] }) })).toBe("unknown-fault");
    const words = { part: true, partner: null, open: [], seen: [], doubtful: [], separate: null, rules: [], names: ["Pedal or throttle sensor"] };
    expect(stepsOf({ ...words, status: "unknown-fault", misfits: ["r4", "r0"] })[1]).toBe(
      "Nearest comes pedal or throttle sensor, but r4 and r0 fit it badly: read again first.",
    );
    expect(stepsOf({ ...words, status: "unknown-fault", misfits: [] }).join(" ")).not.toContain("Nearest");
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
