import type { Circuit, Reading } from "@fox-lamp/language";
import { QUIET_SHARE } from "../../faults";
import { openCase, Session } from "..";
import { SameGo } from "./same-go";

describe("a connector that is moved once", () => {
  it("shows its fault in all values of the go or in none", () => {
    const go = new SameGo([3, 3, -1, 3]);
    expect(go.there(0)).toBeCloseTo(1 - QUIET_SHARE, 9);
    go.note(0, true);
    expect(go.there(1)).toBeGreaterThan(0.95);
    go.note(1, false);
    expect(go.there(2)).toBeCloseTo(1 - QUIET_SHARE, 9);
    expect(go.there(3)).toBeLessThan(0.05);
  });

  it("tells nothing of the next value where the one before could not have shown it, nor of another cell", () => {
    const go = new SameGo([0, 0]);
    go.there(0);
    go.note(0, false);
    expect(go.there(1)).toBeLessThan(0.05);
    // The next cell: the first value cannot show this fault.
    go.there(0);
    expect(go.there(1)).toBeCloseTo(1 - QUIET_SHARE, 9);
  });
});

describe("a contact that all sensors of a reference share", () => {
  const circuits: Circuit[] = [
    { id: "bus", family: "reference-bus" },
    { id: "map", family: "pressure-3w", shares: { ref: "bus", join: "S1" } },
    { id: "tps", family: "potentiometer-3w", shares: { ref: "bus", join: "S1" } },
  ];
  const moved = (id: string, circuit: string, value: number): Reading => ({
    id,
    circuit,
    meter: "scan",
    red: "sig@module",
    setup: { stimulus: { kind: "wiggle", at: "module" }, truth: circuit === "map" ? { pressure: 100 } : { position: 0 } },
    value,
  });
  const still: Reading = { id: "r0", circuit: "bus", meter: "volts-dc", red: "bat+", black: "bat-", value: 12.5 };
  /** log P(the readings) under the loose contact against a sound car, by what follows what. */
  const loose = (...readings: Reading[]): number => {
    const [cluster] = openCase({ circuits, readings, conditions: { pressure: 100 } }, new Session()).clusters;
    if (cluster === undefined) throw new Error("no circuits");
    const { grid } = cluster.inference;
    /** Of a fault at its worst, which nobody overlooks while it shows. */
    const of = (wanted: string | undefined): number => {
      const cells = Array.from({ length: grid.count }, (_, cell) => cell).filter((cell) => grid.faults[grid.fault[cell] ?? 0]?.id === wanted);
      const worst = Math.max(...cells.map((cell) => grid.severity[cell] ?? 0));
      return Math.max(...cells.filter((cell) => grid.severity[cell] === worst).map((cell) => cluster.evidence.logLikelihood[cell] ?? Number.NEGATIVE_INFINITY));
    };
    return of("bus/contact:ref@module/loose") - of(undefined);
  };

  it("kept quiet once where one move was seen by two values, and twice where it was moved twice", () => {
    const [map, tps] = [moved("r1", "map", 4.06), moved("r2", "tps", 0.6)];
    const once = loose(map);
    expect(once).toBeLessThan(Math.log(0.75));
    expect(Math.abs(loose(map, tps) - once)).toBeLessThan(0.02);
    expect(loose(map, still, tps)).toBeLessThan(once - 0.1);
  });
});
