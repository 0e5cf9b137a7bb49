import { type CircuitView, viewsOf } from "@fox-lamp/core";
import { type BusLayout, layoutBus } from "./bus-layout";

const FAMILIES = ["pressure-3w", "potentiometer-3w", "pressure-3w", "potentiometer-3w", "pressure-3w", "potentiometer-3w"];

/** A bus of six sensors on three splices. */
function busOfSix(): { bus: CircuitView; all: CircuitView[] } {
  const all = viewsOf([
    { id: "bus", family: "reference-bus" },
    ...FAMILIES.map((family, index) => ({ id: `c${index}`, family, title: `Sensor number ${index}`, shares: { ref: "bus", join: `S${1 + (index % 3)}` } })),
  ]);
  const [bus] = all;
  if (!bus) throw new Error("no bus");
  return { bus, all };
}

/** Every straight stretch of wire, drops and runs alike. */
function stretches({ branches, trunk }: BusLayout) {
  return [{ owner: "trunk", ...trunk }, ...branches.flatMap(({ circuit, drop, run }) => [drop, run].map((line) => ({ owner: circuit.id, ...line })))];
}

describe.each([680, 480, 340])("a bus of six at %i pixels", (width) => {
  const { bus, all } = busOfSix();
  const layout = layoutBus(bus, all, width);
  it("draws every branch inside, boxes apart", () => {
    expect(layout.branches).toHaveLength(6);
    for (const { box } of layout.branches) {
      expect(box.x + box.width).toBeLessThanOrEqual(width);
      expect(box.x).toBeGreaterThan(layout.module.x + layout.module.width);
      expect(box.y + box.height).toBeLessThan(layout.meter.y);
    }
    const sorted = [...layout.branches].sort((a, b) => a.box.y - b.box.y);
    for (const [index, { box }] of sorted.slice(1).entries()) {
      const above = sorted[index]?.box ?? box;
      expect(box.y).toBeGreaterThanOrEqual(above.y + above.height);
    }
  });
  it("has only upright and level wires, and no branch crosses the drop of another splice", () => {
    for (const { from, to } of stretches(layout)) expect(from.x === to.x || from.y === to.y).toBe(true);
    for (const first of layout.branches) {
      for (const second of layout.branches) {
        const [top, bottom] = [Math.min(second.drop.from.y, second.drop.to.y), Math.max(second.drop.from.y, second.drop.to.y)];
        const crosses = first.run.from.y > top && first.run.from.y < bottom && first.run.from.x < second.drop.from.x && first.run.to.x > second.drop.from.x;
        expect(crosses).toBe(false);
      }
    }
  });
  it("has a spot for leads on the splices, the branches and the posts", () => {
    for (const point of ["ref@module", "ref@S1", "ref@S3", "c4:ref@sensor", "c4:ref@part", "bat-", "chassis"]) expect(layout.spotOf(point)).not.toBeNull();
    for (const point of ["ref@S9", "c4:sig@sensor", "nobody:ref@sensor"]) expect(layout.spotOf(point)).toBeNull();
  });
});
