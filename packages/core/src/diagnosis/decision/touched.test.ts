import type { Reading } from "@fox-lamp/language";
import { inferenceOf } from "../inference/inference";
import { untouchedPoints } from "./touched";

const volts = (red: string, open: readonly string[] = [], black = "bat-"): Reading =>
  ({ meter: "volts-dc", red, black, setup: { key: "on", open }, value: 1 }) as never;
/** Pins a lead must still go on before a unit is condemned. */
function untouched(family: string, unit: string, ...readings: readonly Reading[]): string[] {
  const inference = inferenceOf([{ id: "x", family }] as never);
  const named = readings.map((reading, index) => ({ reading, id: `r${index}`, where: "" }));
  return [...untouchedPoints(inference, `x/${unit}`, named, "x")].sort();
}

describe("leads that are owed before a line is condemned", () => {
  it("are those on feed and ground, while the line was read plugged", () => {
    expect(untouched("hall-3w", "wire:sig", volts("sig@sensor"))).toEqual(["x:feed", "x:gnd"]);
    expect(untouched("hall-3w", "wire:sig", volts("sig@sensor"), volts("feed@sensor", [], "gnd@sensor"))).toEqual([]);
  });
  it("are none where it was read at the open plug against a fixed point: the sensor is out of it", () => {
    expect(untouched("hall-3w", "wire:feed", volts("feed@sensor", ["sensor"]))).toEqual([]);
    expect(untouched("hall-3w", "contact:feed@module", volts("feed@sensor", ["sensor"]))).toEqual([]);
    expect(untouched("pressure-3w", "module:ref", volts("ref@sensor", ["sensor"]))).toEqual([]);
  });
  it("are still owed where the other lead was in the plug too, and of a terminal in that plug", () => {
    expect(untouched("hall-3w", "wire:feed", volts("feed@sensor", ["sensor"], "gnd@sensor"))).toEqual([]);
    expect(untouched("maf-voltage", "wire:feed", volts("feed@sensor", ["sensor"], "pgnd@sensor"))).toEqual(["x:ret"]);
    expect(untouched("hall-3w", "contact:feed@sensor", volts("feed@sensor", ["sensor"]))).toEqual(["x:gnd"]);
  });
  it("leave out what belongs to the sensor where its heater is condemned", () => {
    expect(untouched("oxygen-narrow", "contact:htr-feed@sensor", volts("htr-feed@sensor"))).toEqual([]);
    expect(untouched("oxygen-narrow", "wire:sig", volts("sig@sensor"))).toEqual(["x:gnd"]);
  });
  it("leave out the other of two tracks", () => {
    expect(untouched("dual-track", "contact:sig2@sensor", volts("sig2@sensor"), volts("ref2@sensor"))).toEqual(["x:gnd2"]);
  });
});
