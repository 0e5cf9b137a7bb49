import { buildModel, FAMILIES } from "../../circuit";
import { faultsOf } from "../../faults";
import { layGrid, wideOf } from "./grid";
import { sensedValuesOf } from "./sensed-values";

const HEALTHY = 0.1;

describe.each(FAMILIES.map(({ id }) => id))("the hypotheses of a %s", (family) => {
  const model = buildModel([{ id: "x", family }]);
  const faults = faultsOf(model);
  const grid = layGrid(
    faults,
    HEALTHY,
    model.circuits.map((circuit) => sensedValuesOf(circuit, undefined, false)),
  );
  const cells = Array.from({ length: grid.count }, (_, cell) => cell);
  const priorOf = (fault: number): number => cells.filter((cell) => grid.fault[cell] === fault).reduce((sum, cell) => sum + grid.prior[cell], 0);

  it("are one whole, and share it as the faults' priors do", () => {
    expect(cells.reduce((sum, cell) => sum + grid.prior[cell], 0)).toBeCloseTo(1, 9);
    const [first] = grid.faults.slice(1);
    if (first === undefined || first === null) return;
    const plain = grid.faults.flatMap((fault, index) => (fault !== null && fault.kind !== "true-value" ? [{ fault, index }] : []));
    const unit = priorOf(1) / first.prior;
    for (const { fault, index } of plain) expect(priorOf(index) / fault.prior).toBeCloseTo(unit, 6);
  });
  it("are every fault that matters once, and nothing else", () => {
    const known = grid.faults.flatMap((fault) => (fault === null ? [] : [fault.id]));
    expect(new Set(known).size).toBe(known.length);
    const expected = faults.filter(({ matters, kind }) => matters && kind !== "true-value").map(({ id }) => id);
    expect(known.filter((id) => !id.endsWith("/true-value")).sort()).toEqual(expected.sort());
    grid.faults.forEach((fault, index) => {
      if (fault !== null) expect(grid.units[grid.unitOfFault[index]]).toBe(fault.unit);
    });
  });
  it("cover a fault's whole range of severities, each cell reaching the next", () => {
    grid.faults.forEach((fault, index) => {
      if (fault === null || fault.severity === null) return;
      const { low, high, key } = fault.severity;
      const own = cells.filter((cell) => grid.fault[cell] === index);
      const onScale = (value: number): number => (key === "ohms" ? Math.log(value) : value);
      const values = [...new Set(own.map((cell) => grid.severity[cell]))].sort((a, b) => a - b).map(onScale);
      const reach = 2.5 * Math.max(...own.map((cell) => grid.severitySpread[cell]));
      expect(values[0] - reach).toBeLessThanOrEqual(onScale(low));
      expect((values.at(-1) as number) + reach).toBeGreaterThanOrEqual(onScale(high));
      for (let at = 1; at < values.length; at += 1) expect(values[at] - values[at - 1]).toBeLessThan(2 * reach);
    });
  });
});

describe("a wide value", () => {
  it("has the mean and the deviation of the values it stands for", () => {
    const normal = [
      { value: 0, weight: 1, spread: 1 },
      { value: 10, weight: 3, spread: 2 },
    ];
    const { value, spread } = wideOf({ circuit: "x", normal, abnormal: [], outsideFactor: 1 });
    expect(value).toBeCloseTo(7.5, 12);
    expect(spread ** 2).toBeCloseTo((7.5 ** 2 + 1 + 3 * (2.5 ** 2 + 4)) / 4, 12);
  });
});

it("weighs ohms outside the usual ones a fifth of those within, however few cells stand for them", () => {
  const model = buildModel([{ id: "x", family: "thermistor-2w" }]);
  const faults = faultsOf(model).filter(({ id }) => id === "x/contact:sig@sensor/loose" || id === "x/wire:sig/short-ground");
  const grid = layGrid(faults, HEALTHY, [sensedValuesOf(model.circuits[0] as never, { temperature: 20 }, false)]);
  for (const [index, fault] of grid.faults.entries()) {
    if (fault === null) continue;
    const { usualFrom = 0, usualTo = Number.POSITIVE_INFINITY } = fault;
    const own = Array.from(grid.fault.keys()).filter((cell) => grid.fault[cell] === index);
    const usual = own.filter((cell) => grid.severity[cell] >= usualFrom && grid.severity[cell] <= usualTo);
    const rest = own.filter((cell) => !usual.includes(cell));
    expect(usual.length).toBeGreaterThan(0);
    expect(rest.length).toBeGreaterThan(0);
    const perLnOhm = (cell: number): number => (grid.prior[cell] as number) / (grid.severitySpread[cell] as number);
    for (const cell of rest) expect(perLnOhm(cell) / perLnOhm(usual[0] as number)).toBeCloseTo(0.2, 9);
  }
  expect(grid.faults.length).toBe(3);
});
