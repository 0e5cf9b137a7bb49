import type { Circuit } from "@fox-lamp/language";
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
