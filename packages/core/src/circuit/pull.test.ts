import type { Circuit, Measurement } from "@fox-lamp/language";
import { measureFile } from "../files";
import { alternativesOf } from "./index";
import { crossed, heldUpAlternatives, pullAlternatives } from "./pull";

const THREE_WIRES: Circuit[] = ["potentiometer-3w", "pressure-3w", "maf-voltage"].map((family) => ({ id: "x", family }));

/** Volts of a circuit's signal at the module with its sensor unplugged. */
function unplugged(circuit: Circuit, pin = "sig"): number {
  const asked: Measurement = { circuit: "x", meter: "volts-dc", red: `${pin}@module`, black: "bat-", setup: { open: ["sensor"] } };
  return measureFile({ circuits: [circuit], faults: [], measurements: [asked] })[0]?.value as number;
}

describe("what an input holds an open line at", () => {
  it.each(THREE_WIRES)("is nothing on some cars and the reference on others where $family's sheet says neither", (circuit) => {
    const held = alternativesOf(circuit).map((kind) => unplugged(kind.circuit));
    expect(Math.min(...held)).toBeLessThan(0.1);
    expect(Math.max(...held)).toBeGreaterThan(4.5);
  });
  it.each(THREE_WIRES)("is what $family's sheet says, whichever of the two it names", (circuit) => {
    for (const [name, low, high] of [
      ["pulldown", -0.1, 0.1],
      ["pullup", 4.5, 5.2],
    ] as const) {
      const stated = alternativesOf({ ...circuit, with: { [name]: 150_000 } }).map((kind) => unplugged(kind.circuit));
      for (const volts of stated) {
        expect(volts).toBeGreaterThan(low);
        expect(volts).toBeLessThan(high);
      }
    }
  });
  it("is each line's own on a sensor with two tracks", () => {
    const pedal: Circuit = { id: "x", family: "dual-track", with: { heldUp: "second" } };
    expect(unplugged(pedal, "sig1")).toBeLessThan(0.1);
    expect(unplugged(pedal, "sig2")).toBeGreaterThan(4.5);
  });
  it("counts every kind once, and leaves nothing open that is stated", () => {
    const all = (silent: boolean) => [pullAlternatives(() => silent), heldUpAlternatives(() => silent)];
    for (const list of all(true)) expect(list.reduce((sum, { weight }) => sum + weight, 0)).toBeCloseTo(1, 9);
    for (const list of all(false)) expect(list).toEqual([]);
    const both = crossed(
      pullAlternatives(() => true),
      heldUpAlternatives(() => true),
    );
    expect(both).toHaveLength(6);
    expect(both.reduce((sum, { weight }) => sum + weight, 0)).toBeCloseTo(1, 9);
    expect(crossed([], both)).toBe(both);
  });
});
