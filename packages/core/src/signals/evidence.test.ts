import type { Circuit, Setup } from "@fox-lamp/language";
import { buildModel, type CircuitModel } from "../circuit";
import { faultsOf, placeFault } from "../faults";
import { traceOf } from "../vehicle";
import { analyseCapture, type ChannelLeads, readingsOfCapture } from "./index";

const CAM: Circuit = { id: "cam", family: "hall-3w", with: { teeth: 12, missing: 1, feedV: 12, pullupV: 5 } };

/** The readings of a capture of feed, signal and ground of one circuit, in which a fault is there for a moment. */
function captured(
  circuit: Circuit,
  fault: { id: string; ohms?: number } | null,
  pins: readonly string[],
  setup: { key: "idle" | "on"; stimulus?: { kind: "sweep" } } = { key: "idle" },
) {
  const model = buildModel([circuit]);
  const own = model.circuits[0] as CircuitModel;
  const faults = fault === null ? [] : [placeFault(model, faultsOf(model), fault, "f")];
  const leads = new Map(pins.map((pin): [string, ChannelLeads] => [pin, { circuit: circuit.id, red: `${pin}@sensor`, black: "bat-" }]));
  const trace = traceOf(model, own, setup, faults, {
    channels: pins.map((pin) => ({ name: pin, red: `${pin}@sensor`, black: "bat-" })),
    seconds: 1,
    rate: 10_000,
    seed: 4,
    bits: 8,
    range: 20,
    during: [{ from: 0.5, to: 0.58 }],
  });
  const capture = { start: 0, rate: 10_000, channels: trace.channels.map(({ name, unit, samples }) => ({ name, unit, samples })) };
  const analysis = analyseCapture(capture, { circuitOf: () => own, engine: setup.key === "idle" ? "runs" : "stands" });
  return readingsOfCapture(analysis, (name) => leads.get(name) ?? null, setup);
}

it("a sound capture is one reading a channel, and nothing of it is said to be the fault", () => {
  const readings = captured(CAM, null, ["feed", "sig", "gnd"]);
  expect(readings).toHaveLength(3);
  expect(readings.every(({ reading }) => reading.symptom === undefined)).toBe(true);
  const [feed, sig, gnd] = readings.map(({ reading }) => reading.value);
  expect(Math.abs(Number(feed) - 13.9)).toBeLessThan(0.2);
  expect(gnd).toBeLessThan(0.15);
  expect((sig as { max: number }).max).toBeGreaterThan(4.7);
  expect((sig as { min: number }).min).toBeLessThan(0.4);
});

it("the moment of a failure is a test of feed, signal and ground at once, during the symptom", () => {
  const readings = captured(CAM, { id: "cam/wire:gnd/open" }, ["feed", "sig", "gnd"]);
  const during = readings.filter(({ reading }) => reading.symptom === true);
  expect(readings.filter(({ reading }) => reading.symptom === false)).toHaveLength(3);
  expect(during.map(({ channel }) => channel)).toEqual(["feed", "sig", "gnd"]);
  for (const { from, to } of during) expect([from, to].map((at) => Number(at.toFixed(2)))).toEqual([0.5, 0.58]);
  // The ground at the sensor floats to the feed; the signal stands at its pull-up.
  expect(during[2]?.reading.value).toBeGreaterThan(10);
  const stood = during[1]?.reading.value as { min: number; max: number };
  expect(stood.min).toBe(stood.max);
  expect(stood.min).toBeGreaterThan(4.5);
});

it("a worn track is read where it fails, and no channel without leads is a reading", () => {
  const pot: Circuit = { id: "tps", family: "potentiometer-3w" };
  const readings = captured(pot, { id: "tps/wire:ref/open" }, ["ref", "sig", "gnd"], { key: "on", stimulus: { kind: "sweep" } });
  const worn = readings.find(({ channel, reading }) => channel === "sig" && reading.symptom === true);
  expect(typeof worn?.reading.value).toBe("number");
  expect(captured(pot, null, ["sig"]).length).toBe(1);
  expect(readings.every(({ reading }) => reading.meter === "capture")).toBe(true);
});

describe("a capture of a signal that is its rate", () => {
  const rates = (circuit: Circuit, setup: Setup, pin = "sig", fault: { id: string; severity?: number; direction?: 1 | -1 } | null = null) => {
    const model = buildModel([circuit]);
    const own = model.circuits[0] as CircuitModel;
    const faults = fault === null ? [] : [placeFault(model, faultsOf(model), fault, "f")];
    const rate = 50_000;
    const trace = traceOf(model, own, setup, faults, { channels: [{ name: pin, red: `${pin}@sensor`, black: "bat-" }], seconds: 1, rate, seed: 6 });
    const analysis = analyseCapture({ start: 0, ...trace }, { circuitOf: () => own, engine: "runs" });
    return readingsOfCapture(analysis, () => ({ circuit: circuit.id, red: `${pin}@sensor`, black: "bat-" }), setup).filter(
      ({ reading }) => reading.meter === "hertz",
    );
  };
  it("is that rate, besides its two levels", () => {
    const [sound] = rates({ id: "maf", family: "maf-freq" }, { key: "idle" });
    expect(sound?.reading).toMatchObject({ circuit: "maf", red: "sig@sensor", black: "bat-" });
    expect(Number(sound?.reading.value)).toBeGreaterThan(500);
    const [skewed] = rates({ id: "maf", family: "maf-freq" }, { key: "idle" }, "sig", { id: "maf/sensor/skewed", severity: 0.5, direction: 1 });
    expect(Number(skewed?.reading.value) / Number(sound?.reading.value)).toBeGreaterThan(1.2);
  });
  it("of a wheel says its speed, and so nothing of the circuit unless the speed is known", () => {
    expect(rates(CAM, { key: "idle" })).toEqual([]);
    // 800 turns a minute, eleven of twelve teeth.
    const [known] = rates(CAM, { key: "idle", rpm: 800 });
    expect(Number(known?.reading.value) / ((800 / 60) * 11)).toBeCloseTo(1, 1);
  });
});

it("a clamp's channel is an ammeter's reading: the average of whole pulses", () => {
  const valve: Circuit = { id: "purge", family: "solenoid-2w", with: { coil: [18, 24], hertz: 16, duty: 70 } };
  const model = buildModel([valve]);
  const own = model.circuits[0] as CircuitModel;
  const setup: Setup = { key: "idle" };
  const channels = [{ name: "purge:current", red: "purge:ctl@sensor", black: null }];
  const trace = traceOf(model, own, setup, [], { channels, seconds: 1, rate: 20_000, seed: 3 });
  const analysis = analyseCapture({ start: 0, ...trace }, { circuitOf: () => own, engine: "runs" });
  const [reading, ...more] = readingsOfCapture(analysis, () => ({ circuit: "purge", red: "ctl@sensor", black: null }), setup);
  expect(more).toEqual([]);
  expect(reading?.reading).toMatchObject({ circuit: "purge", meter: "amps-dc", red: "ctl@sensor" });
  expect(reading?.reading.black).toBeUndefined();
  // Nearly 14 V over 21 ohm for three tenths of the time, less what the pintle's movement takes.
  expect(Number(reading?.reading.value)).toBeGreaterThan(0.17);
  expect(Number(reading?.reading.value)).toBeLessThan(0.21);
});
