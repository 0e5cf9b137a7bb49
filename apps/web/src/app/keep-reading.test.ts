/** @jest-environment jsdom */
import { knownOf } from "./KeepReading";

const JOB = { number: 12, vehicle: { name: "Unit 7", make: "Orrin", model: "Skua" } };
const ECT = { id: "ect", family: "thermistor-2w" };
const READING = { circuit: "ect", meter: "volts-dc" as const, red: "sig@sensor", black: "bat-", value: 2.7, setup: { truth: { temperature: 20 } } };

it("a reading becomes something to compare with, with its state and where it was taken", () => {
  expect(knownOf(JOB, ECT, READING, "2026-03-02")).toEqual({
    kind: "known",
    record: {
      vehicle: { make: "Orrin", model: "Skua" },
      family: "thermistor-2w",
      meter: "volts-dc",
      red: "sig@sensor",
      black: "bat-",
      setup: { key: "on", truth: { temperature: 20 } },
      value: 2.7,
      unit: "V",
      source: { kind: "own", title: "Unit 7, job 12" },
      date: "2026-03-02",
    },
  });
});

it("not without a model, a number, a circuit, or with something put in", () => {
  expect(knownOf({ number: 1, vehicle: { name: "x" } }, ECT, READING, "")).toBeNull();
  expect(knownOf(JOB, undefined, READING, "")).toBeNull();
  expect(knownOf(JOB, ECT, { ...READING, value: "OL" }, "")).toBeNull();
  const added = [{ kind: "jumper" as const, from: "sig@sensor", to: "bat-" }];
  expect(knownOf(JOB, ECT, { ...READING, setup: { add: added } }, "")).toBeNull();
});
