import type { Reading } from "@fox-lamp/language";
import { buildModel, type CircuitModel } from "../../circuit";
import { diagnoseJob, Session } from "..";
import { movedBetween } from "./moved-between";

const circuits = [
  { id: "tps", family: "potentiometer-3w", title: "Throttle position" },
  { id: "sw", family: "switch", title: "Brake light switch" },
  { id: "ect", family: "thermistor-2w", title: "Coolant temperature" },
];
const models = new Map(buildModel(circuits).circuits.map((circuit) => [circuit.id, circuit]));
const circuitOf = ({ circuit }: Reading): CircuitModel | null => models.get(circuit ?? "") ?? null;
const volts = (circuit: string, value: number, red = "sig@sensor", setup: Reading["setup"] = { key: "on" }): Reading => ({
  circuit,
  meter: "volts-dc",
  red,
  black: "bat-",
  setup,
  value,
});
const told = (readings: readonly Reading[]) => movedBetween(readings, circuitOf).map(({ setup }) => setup?.truth);

describe("what was moved between two readings and not said", () => {
  it("stood anywhere: of none of them is it known where", () => {
    const anywhere = { position: { value: 50, within: 60 } };
    expect(told([volts("tps", 0.7), volts("tps", 4.2), volts("tps", 0.7, "sig@module")])).toEqual([anywhere, anywhere, undefined]);
  });
  it("may have been read in percent, from end to end", () => {
    const anywhere = { position: { value: 50, within: 60 } };
    const percent = (value: number): Reading => ({ circuit: "tps", meter: "scan", red: "sig@module", unit: "%", setup: { key: "on" }, value });
    expect(told([percent(0), percent(100)])).toEqual([anywhere, anywhere]);
    expect(told([percent(12), percent(14)])).toEqual([undefined, undefined]);
    // In another unit it is another reading.
    expect(told([percent(12), { ...percent(85), unit: "V", value: 3.9 }])).toEqual([undefined, undefined]);
  });
  it("is not looked for between readings with the complaint and without", () => {
    const seen = { ...volts("tps", 4.2), symptom: true };
    expect(told([volts("tps", 0.7), seen])).toEqual([undefined, undefined]);
  });
  it("is a level for a switch: the lower of two, or the higher", () => {
    expect(told([volts("sw", 4.97), volts("sw", 0.03)])).toEqual([{ level: "high" }, { level: "low" }]);
  });
  it("was not moved where the readings agree, or one of them is no position at all", () => {
    for (const [one, other] of [
      [0.7, 0.75],
      [0, 0.72],
      [4.99, 0.72],
      [44, 4.4],
      [-0.7, 0.7],
    ] as const)
      expect(told([volts("tps", one), volts("tps", other)])).toEqual([undefined, undefined]);
  });
  it("is asked of what a hand moves in a second, of its signal, plugged in, and where nobody said anything", () => {
    expect(told([volts("ect", 0.7), volts("ect", 3)])).toEqual([undefined, undefined]);
    expect(told([volts("tps", 0.7, "gnd@sensor"), volts("tps", 2, "gnd@sensor")])).toEqual([undefined, undefined]);
    const open = { key: "on" as const, open: ["sensor" as const] };
    expect(told([volts("tps", 0.7, "sig@sensor", open), volts("tps", 4.2, "sig@sensor", open)])).toEqual([undefined, undefined]);
    const shut = { key: "on" as const, truth: { position: 0 } };
    expect(told([volts("tps", 0.7, "sig@sensor", shut), volts("tps", 4.2, "sig@sensor", shut)])).toEqual([shut.truth, shut.truth]);
    const loom = { key: "on" as const, stimulus: { kind: "wiggle" as const, at: "loom" as const } };
    expect(told([volts("tps", 0.7, "sig@sensor", loom), volts("tps", 4.2, "sig@sensor", loom)])).toEqual([undefined, undefined]);
  });
});

describe("a job in which nobody said where it stood", () => {
  const [throttle, switched] = circuits as [(typeof circuits)[0], (typeof circuits)[0]];
  const reference = volts("tps", 4.99, "ref@sensor");
  it("doubts no reading of a throttle at rest and floored", () => {
    const { doubtful, verdict } = diagnoseJob(
      { circuits: [throttle], readings: [reference, volts("tps", 0.72), volts("tps", 4.18), volts("tps", 2.3)] },
      new Session(),
    );
    expect(doubtful).toEqual([]);
    expect(verdict.status).not.toBe("proven");
  });
  it("doubts no reading of data in percent", () => {
    const percent = (value: number): Reading => ({ circuit: "tps", meter: "scan", red: "sig@module", unit: "%", setup: { key: "on" }, value });
    const { doubtful, verdict } = diagnoseJob({ circuits: [throttle], readings: [percent(12), percent(85)] }, new Session());
    expect(doubtful).toEqual([]);
    expect(verdict.status).not.toBe("proven");
  });
  it("doubts no reading of a switch that was pressed", () => {
    const { doubtful, verdict } = diagnoseJob({ circuits: [switched], readings: [volts("sw", 0.03), volts("sw", 4.97)] }, new Session());
    expect(doubtful).toEqual([]);
    expect(verdict.status).not.toBe("proven");
  });
  it("still doubts what no position shows", () => {
    const { doubtful } = diagnoseJob({ circuits: [throttle], readings: [reference, volts("tps", 7.2), volts("tps", 0.72)] }, new Session());
    expect(doubtful.map(({ reading }) => reading)).toEqual(["r2"]);
  });
});
