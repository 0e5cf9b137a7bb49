import type { Circuit, Reading } from "@fox-lamp/language";
import { diagnoseJob, Session } from "../index";

const diagnose = (circuits: Circuit[], readings: Reading[]) => diagnoseJob({ circuits, readings }, new Session());

describe("a figure far from usual that no sheet states", () => {
  const tps: Circuit[] = [
    {
      id: "tps",
      family: "potentiometer-3w",
      title: "Throttle position",
      with: {
        transfer: [
          [0, 0.79],
          [100, 3.76],
        ],
      },
    },
  ];
  const at = (position: number) => ({ key: "on" as const, truth: { position } });
  const part = { key: "off" as const, open: ["sensor" as const], truth: { position: 0 } };
  /** A reference wire with 12 kilo-ohm in it; the track has a kilo-ohm, where five are usual. */
  const WIRE: Reading[] = [
    { id: "r1", circuit: "tps", meter: "scan", red: "sig@module", setup: at(0), value: 0.09 },
    { id: "r2", circuit: "tps", meter: "scan", red: "sig@module", setup: at(100), value: 0.3 },
    { id: "r3", circuit: "tps", meter: "volts-dc", red: "ref@sensor", black: "gnd@sensor", setup: at(0), value: 0.365 },
    { id: "r4", circuit: "tps", meter: "volts-dc", red: "ref@sensor", black: "gnd@sensor", setup: { key: "on", open: ["sensor"] }, value: 4.89 },
    { id: "r5", circuit: "tps", meter: "volts-dc", red: "ref@module", black: "gnd@module", setup: at(0), value: 4.92 },
    { id: "r6", circuit: "tps", meter: "volts-dc", red: "ref@sensor", black: "bat-", setup: at(0), value: 0.412 },
  ];
  const TRACK: Reading = { id: "r7", circuit: "tps", meter: "ohms", red: "ref@part", black: "gnd@part", setup: part, value: 976 };

  it("holds no verdict up once the part itself was measured", () => {
    const { verdict } = diagnose(tps, [...WIRE, TRACK, { ...TRACK, id: "r8", value: 954 }]);
    expect(verdict).toMatchObject({ status: "proven", unit: "tps/wire:ref" });
  });

  it("nor once the line was read with its sensor unplugged: five volts behind the pull-up of a switch", () => {
    const brake: Circuit[] = [{ id: "sw", family: "switch", title: "Brake switch", with: { pullup: 10_200 } }];
    const level = (high: boolean) => ({ key: "on" as const, truth: { level: high ? ("high" as const) : ("low" as const) } });
    const scan = (id: string, setup: Reading["setup"], value: number): Reading => ({ id, circuit: "sw", meter: "scan", red: "sig@module", setup, value });
    const unplugged = { key: "on" as const, open: ["sensor" as const] };
    const { verdict, ask = [] } = diagnose(brake, [
      scan("r1", level(false), 0),
      scan("r2", level(true), 4.9),
      { id: "r3", circuit: "sw", meter: "volts-dc", red: "sig@sensor", black: "bat-", setup: level(true), value: 4.91 },
      { id: "r4", circuit: "sw", meter: "volts-dc", red: "gnd@sensor", black: "bat-", setup: { key: "on" }, value: 0.045 },
      scan("r5", { ...level(false), stimulus: { kind: "wiggle", at: "sensor" } }, 4.87),
      scan("r6", unplugged, 4.88),
      scan("r7", { ...unplugged, add: [{ kind: "resistor", from: "sig@sensor", to: "gnd@sensor", ohms: 4700 }] }, 1.56),
      scan("r8", { ...level(false), stimulus: { kind: "wiggle", at: "sensor" } }, 4.88),
    ]);
    expect(["sw/contact:sig@sensor", "sw/contact:gnd@sensor"]).toContain(verdict.unit);
    expect(ask.map(({ parameter }) => parameter)).not.toContain("pullupV");
  });
});
