import type { Circuit, Reading } from "@fox-lamp/language";
import { diagnoseJob, Session } from "../index";

const session = new Session();
const bus = (id: string, family: string, given: Circuit["with"]): Circuit => ({
  id,
  family,
  shares: { ref: "bus", join: "S1" },
  with: { vref: 5, limitA: 0.1, ...given },
});
const TRACK = {
  percentOf: "opening",
  track: 5000,
  transfer: [
    [0, 0.6],
    [100, 4.3],
  ],
};
const CIRCUITS: Circuit[] = [
  { id: "bus", family: "reference-bus", with: { vref: 5, limitA: 0.1 } },
  bus("tps", "potentiometer-3w", TRACK),
  bus("egr", "potentiometer-3w", TRACK),
];
const at = (circuit: string, position: number, value: number): Reading => ({
  circuit,
  meter: "scan",
  red: "sig@module",
  setup: { truth: { position } },
  value,
});
/** The lift sensor has half of its voltage at both stops, its reference and its track are whole: something between them. */
const READINGS: Reading[] = [
  at("tps", 0, 0.6),
  at("egr", 0, 0.29),
  at("egr", 100, 2.12),
  {
    circuit: "egr",
    meter: "scan",
    red: "sig@module",
    setup: { open: ["sensor"], add: [{ kind: "resistor", from: "sig@sensor", to: "ref@sensor", ohms: 4700 }] },
    value: 5,
  },
  { circuit: "egr", meter: "volts-dc", red: "ref@sensor", black: "gnd@sensor", setup: { truth: { position: 0 } }, value: 5.06 },
  {
    circuit: "egr",
    meter: "ohms",
    red: "sig@part",
    black: "gnd@part",
    setup: { key: "off", open: ["sensor"], truth: { position: 0 } },
    value: 624,
  },
];

describe("a verdict that hangs on the kind of circuit", () => {
  it("is decided by a test that shows it, which says so", () => {
    const { verdict, next, ask = [] } = diagnoseJob({ circuits: CIRCUITS, readings: READINGS }, session);
    expect(verdict).toMatchObject({ status: "narrowing", unit: "egr/contact:ref@sensor" });
    expect(next[0]).toMatchObject({ circuit: "egr", setup: { open: ["sensor"] } });
    expect(next[0]?.red.startsWith("sig@")).toBe(true);
    expect(next[0]).toMatchObject({ cause: "kind", outcomes: [] });
    expect(next[0]?.why).toMatch(/^Shows what the sheet leaves out and the verdict hangs on/u);
    expect(ask[0]).toMatchObject({ circuit: "egr", parameter: "pullup" });
  });
  const shown = (value: number): Reading => ({ circuit: "egr", meter: "scan", red: "sig@module", setup: { open: ["sensor"] }, value });
  it("stands on a line that is held up: what keeps the signal down lies before the wiper", () => {
    const { verdict } = diagnoseJob({ circuits: CIRCUITS, readings: [...READINGS, shown(4.96)] }, session);
    expect(verdict).toMatchObject({ status: "proven", unit: "egr/contact:ref@sensor" });
  });
  it("falls on a line that is held down: ohms in the signal's own contact would halve it as well", () => {
    const { verdict } = diagnoseJob({ circuits: CIRCUITS, readings: [...READINGS, shown(0.01)] }, session);
    expect(verdict.status).toBe("narrowing");
    expect([verdict.unit, ...verdict.open]).toEqual(expect.arrayContaining(["egr/contact:sig@sensor", "egr/contact:ref@sensor"]));
  });
});
