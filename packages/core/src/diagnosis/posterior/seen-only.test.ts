import type { Circuit, Reading } from "@fox-lamp/language";
import { openCase, Session } from "..";
import type { CircuitPosterior } from "./posterior";
import { isSeenOnly } from "./seen-only";

const KNOCK: Circuit[] = [{ id: "knock", family: "knock-1w", title: "Knock sensor" }];
const TAP = { key: "on" as const, stimulus: { kind: "tap" as const } };
const PLUG = ["knock/contact:sig@sensor"];

const GREEN: Reading = { id: "r1", circuit: "knock", meter: "look", red: "sensor", setup: { key: "off", open: ["sensor"] }, value: "corroded" };
const heard = (id: string, value: number, setup: Reading["setup"]): Reading => ({
  id,
  circuit: "knock",
  meter: "scan",
  red: "sig@module",
  unit: "taps",
  setup,
  value,
});
const ring = (id: string, red: string, volts: number, open: readonly "sensor"[] = []): Reading => ({
  id,
  circuit: "knock",
  meter: "volts-ac",
  red,
  black: red.endsWith("@part") ? "engine" : "bat-",
  setup: open.length === 0 ? TAP : { ...TAP, open: [...open] },
  value: volts,
});
function suspected(readings: readonly Reading[]): CircuitPosterior {
  return openCase({ circuits: KNOCK, readings: [...readings] }, new Session()).joint.circuits[0] as CircuitPosterior;
}

describe("a plug that is suspected", () => {
  it("is so for what was seen alone where everything that was measured fits a sound car", () => {
    const posterior = suspected([
      heard("r2", 1, TAP),
      heard("r3", 1, { key: "idle" }),
      ring("r4", "sig@part", 0.1, ["sensor"]),
      ring("r5", "sig@sensor", 0.095),
      GREEN,
    ]);
    expect(posterior.units[posterior.inference.grid.units.indexOf(PLUG[0] as string)]).toBeGreaterThan(0.3);
    expect(isSeenOnly(posterior, PLUG)).toBe(true);
  });

  it("is so for what was measured where the ring does not come through it", () => {
    const readings = [
      ring("r2", "sig@part", 0.1, ["sensor"]),
      ring("r3", "sig@sensor", 0.004),
      ring("r4", "sig@module", 0.004),
      heard("r5", 0, { key: "idle" }),
    ];
    expect(isSeenOnly(suspected([...readings, GREEN]), PLUG)).toBe(false);
    // Nobody looked: nothing can hang on it.
    expect(isSeenOnly(suspected(readings), PLUG)).toBe(false);
  });

  it("is not suspected for what was seen where that was nothing", () => {
    const moved = heard("r3", 0, { key: "idle", stimulus: { kind: "wiggle", at: "sensor" } });
    const readings = [heard("r2", 1, { key: "idle" }), moved, heard("r4", 1, { key: "idle" }), { ...GREEN, value: "ok" as const }];
    expect(isSeenOnly(suspected(readings), PLUG)).toBe(false);
  });
});
