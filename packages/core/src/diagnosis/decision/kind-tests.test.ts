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

describe("a verdict that holds only with a figure far from the usual", () => {
  const tps = (rest: Reading): Reading => ({ ...rest, circuit: "tps" });
  const volts = (red: string, black: string, value: number, setup: Reading["setup"] = { truth: { position: 0 } }): Reading =>
    tps({ meter: "volts-dc", red, black, setup, value });
  const loaded: Reading["setup"] = { open: ["sensor"], add: [{ kind: "resistor", from: "ref@sensor", to: "gnd@sensor", ohms: 470 }] };
  /** 1.2 kilo-ohm of track where most have five; 510 ohm in the reference's contact at the module. */
  const readings: Reading[] = [
    tps({ meter: "scan", red: "sig@module", setup: { truth: { position: 0 } }, value: 0.34 }),
    tps({ meter: "scan", red: "sig@module", setup: { truth: { position: 100 } }, value: 2.63 }),
    volts("ref@sensor", "bat-", 3.53),
    volts("ref@sensor", "gnd@sensor", 2.38, loaded),
    volts("ref@sensor", "gnd@sensor", 2.38, loaded),
    volts("ref@sensor", "gnd@sensor", 3.5),
    volts("ref@module", "bat-", 3.54),
    volts("ref@sensor", "bat-", 5.05, { open: ["sensor"] }),
    volts("ref@sensor", "gnd@sensor", 5.02, { open: ["sensor"] }),
  ];
  const circuits: Circuit[] = [{ id: "tps", family: "potentiometer-3w", with: { pullup: 134_620 } }];
  it("asks for the measurement that shows it, and stands after it", () => {
    const { verdict, next } = diagnoseJob({ circuits, readings }, session);
    expect(verdict).toMatchObject({ status: "narrowing", unit: "tps/contact:ref@module" });
    expect(next[0]).toMatchObject({ meter: "ohms", red: "ref@part", black: "gnd@part", cause: "kind" });
    expect(next.some(({ red }) => red === "sig@part")).toBe(false);
    const track = tps({ meter: "ohms", red: "ref@part", black: "gnd@part", setup: { key: "off", open: ["sensor"] }, value: 1204 });
    expect(diagnoseJob({ circuits, readings: [...readings, track] }, session).verdict).toMatchObject({ status: "proven", unit: "tps/contact:ref@module" });
  });
});
