import { completeSheets } from "../../circuit";
import type { Fault } from "../../faults";
import { inferenceOf } from "..";
import type { HypothesisGrid } from "../hypotheses/grid";
import { compatible, type Member, orderedPair } from "./pair-fault";
import { gridOf } from "./pair-grid";

/** A grid whose pairs are built as a whole, not from what each of the two does. */
function asWholes(grid: HypothesisGrid): HypothesisGrid {
  const faults = grid.faults.map((fault): Fault | null => {
    if (fault === null) return null;
    const { parts: _parts, ...whole } = fault;
    return whole;
  });
  return { ...grid, faults, names: [] };
}

describe("two faults that do not heed one another", () => {
  it.each([
    ["thermistor-2w", "ect", "sig", { meter: "volts-dc", red: "sig@sensor", black: "gnd@sensor" }],
    ["potentiometer-3w", "tps", "ref", { meter: "scan", red: "sig@module" }],
    ["hall-3w", "cam", "feed", { meter: "volts-dc", red: "sig@sensor", black: "bat-" }],
  ] as const)("on a %s read what both read as one fault", (family, id, _pin, measurement) => {
    const inference = inferenceOf(completeSheets([{ id, family }]));
    const { grid } = inference;
    const seen = new Set<number>();
    const members = Array.from({ length: grid.count }, (_, cell) => cell).flatMap((cell): Member[] => {
      const place = grid.fault[cell] as number;
      const fault = grid.faults[place];
      if (fault === null || fault === undefined || !fault.constant || fault.during !== null || seen.has(place)) return [];
      seen.add(place);
      return [{ fault, cell, severity: grid.severity[cell] as number }];
    });
    const pairs = members
      .flatMap((one, index) => members.slice(index + 1).map((other) => [one, other] as const))
      .filter(([one, other]) => compatible(one.fault, other.fault))
      .map(([one, other]) => orderedPair(one, other));
    const rows = pairs.map((pair) => ({ cell: pair.first.cell, pair }));
    const composed = gridOf(grid, rows);
    expect(composed.faults.filter((fault) => fault?.parts !== undefined).length).toBeGreaterThan(50);
    const probe = inference.probe({ circuit: id, ...measurement }, "");
    if (probe === null) throw new Error("no probe");
    const [fromParts, fromWholes] = [composed, asWholes(composed)].map((own, index) => {
      const [table] = inference.under(`pairs ${index}`, () => own).tablesFor([{ key: "asked", probe }], null);
      if (table === undefined) throw new Error("no table");
      return rows.map((_, row) => {
        const slot = table.slot[row] as number;
        const columns = table.jacobian.length / table.mean.length;
        return [table.mean[slot], table.noise[slot], ...table.jacobian.slice(slot * columns, (slot + 1) * columns)];
      });
    });
    expect(fromParts).toEqual(fromWholes);
  });
});
