import fc from "fast-check";
import { buildModel } from "../circuit";
import { faultsOf } from "./index";
import { learntOf } from "./learnt";

const WEIGHTS = new Map([
  ["sensor", 60],
  ["wire:sig", 30],
  ["contact:sig@sensor", 10],
]);
const found = (unit: string, model: number, shop: number) => ({ family: "thermistor-2w", unit, model, shop });

describe("what was found before", () => {
  it("leaves everything as documented where nothing was, or nothing of this circuit", () => {
    expect(learntOf(WEIGHTS, [])).toEqual(new Map());
    expect(learntOf(WEIGHTS, [found("coil", 3, 3)])).toEqual(new Map());
  });
  it("makes a unit likelier by the formula, worked out by hand", () => {
    // Three jobs on the model, all the contact: p1 = p0, p2 = (6 x 0.1 + 3) / 9 = 0.4, four times its share; the others 6 / 9 of theirs, which
    // is under the least, 0.75. Brought back to shares: 0.1 x 4 + 0.9 x 0.75 = 1.075.
    const learnt = learntOf(WEIGHTS, [found("contact:sig@sensor", 3, 3)]);
    expect(learnt.get("contact:sig@sensor")).toMatchObject({ model: 3, shop: 3 });
    expect(learnt.get("contact:sig@sensor")?.factor).toBeCloseTo(4 / 1.075, 6);
    expect(learnt.get("sensor")?.factor).toBeCloseTo(0.75 / 1.075, 6);
    // One job elsewhere: p1 = (12 x 0.1 + 1) / 13 = 0.169; nothing on the model, so that stands. The others 12 / 13.
    const elsewhere = learntOf(WEIGHTS, [found("contact:sig@sensor", 0, 1)]);
    expect(elsewhere.get("contact:sig@sensor")?.factor).toBeCloseTo(2.2 / 13 / 0.1, 6);
    expect(elsewhere.get("sensor")?.factor).toBeCloseTo(12 / 13, 6);
  });
  it("keeps the shares of a circuit a whole, and follows the count", () => {
    fc.assert(
      fc.property(fc.nat(30), fc.nat(30), fc.nat(30), (model, others, sensors) => {
        const of = (count: number) => learntOf(WEIGHTS, [found("wire:sig", count, count + others), found("sensor", 0, sensors)]);
        const learnt = of(model);
        const whole = [...WEIGHTS].reduce((sum, [unit, weight]) => sum + (weight / 100) * (learnt.get(unit)?.factor ?? 1), 0);
        expect(whole).toBeCloseTo(1, 9);
        expect(of(model + 1).get("wire:sig")?.factor ?? 1).toBeGreaterThanOrEqual((learnt.get("wire:sig")?.factor ?? 1) - 1e-9);
      }),
    );
  });
  it("moves the priors of a circuit's faults, kinds among themselves as before, other circuits not at all", () => {
    const model = buildModel([
      { id: "ect", family: "thermistor-2w" },
      { id: "tps", family: "potentiometer-3w" },
    ]);
    const [plain, learnt] = [faultsOf(model), faultsOf(model, [], [found("contact:sig@sensor", 5, 5)])];
    const sum = (list: typeof plain, start: string): number => list.filter(({ id }) => id.startsWith(start)).reduce((all, { prior }) => all + prior, 0);
    expect(sum(learnt, "ect/contact:sig@sensor/") / sum(plain, "ect/contact:sig@sensor/")).toBeGreaterThan(2.5);
    expect(sum(learnt, "ect/sensor/") / sum(plain, "ect/sensor/")).toBeLessThan(0.8);
    expect(sum(learnt, "tps/")).toBeCloseTo(sum(plain, "tps/"), 9);
    expect(sum(learnt, "ect/")).toBeCloseTo(sum(plain, "ect/"), 9);
    const ratio = (list: typeof plain): number => sum(list, "ect/contact:sig@sensor/open") / sum(list, "ect/contact:sig@sensor/corroded");
    expect(ratio(learnt)).toBeCloseTo(ratio(plain), 9);
    expect(learnt.find(({ id }) => id === "ect/contact:sig@sensor/open")?.learnt).toMatchObject({ model: 5 });
    expect(plain.find(({ id }) => id === "ect/contact:sig@sensor/open")?.learnt).toBeUndefined();
  });
});
