import { CALCULATORS, type Calculator, calculate } from "@fox-lamp/core";
import { beginning, figures, inUnit, shownIn, unitFor, valuesOf } from "./numbers";

const byId = (id: string): Calculator => CALCULATORS.find((one) => one.id === id) as Calculator;
const fieldOf = (id: string, field: string) => byId(id).fields.find((one) => one.id === field) as Calculator["fields"][number];

describe("a calculator's fields", () => {
  it("begin with the usual numbers, the answer empty", () => {
    const { texts, units } = beginning(byId("divider"), {});
    expect(texts).toEqual({ supply: "5", pull: "2200", sensor: "2000", signal: "" });
    expect(units["pull"]).toBe("ohm");
  });
  it("opened with numbers leave empty what was not given", () => {
    const typed = beginning(byId("divider"), { supply: 5, pull: 1000, signal: 2.5 });
    expect(typed.texts["sensor"]).toBe("");
    const { given, wrong } = valuesOf(byId("divider"), typed);
    expect(wrong).toEqual([]);
    expect(calculate(byId("divider"), given)).toMatchObject({ ok: true, answer: { field: "sensor", value: 1000 } });
    // A wheel's rate is asked as speed.
    expect(beginning(byId("teeth"), { teeth: 60, missing: 2, turns: 1, hertz: 700 }).texts["rpm"]).toBe("");
  });
  it("keep the same thing when its unit changes, and count it in base units", () => {
    const typed = inUnit(beginning(byId("divider"), {}), fieldOf("divider", "pull"), "kohm");
    expect(typed.texts["pull"]).toBe("2.2");
    expect(valuesOf(byId("divider"), typed).given["pull"]).toBeCloseTo(2200, 9);
    const warm = inUnit(beginning(byId("winding"), {}), fieldOf("winding", "fromDegC"), "degF");
    expect(warm.texts["fromDegC"]).toBe("176");
    expect(valuesOf(byId("winding"), warm).given["fromDegC"]).toBeCloseTo(80, 9);
  });
  it("name what is no number, and take a decimal comma", () => {
    const typed = { ...beginning(byId("divider"), {}), texts: { supply: "5,1", pull: "2k2", sensor: "", signal: "" } };
    const { given, wrong } = valuesOf(byId("divider"), typed);
    expect(given).toEqual({ supply: 5.1 });
    expect(wrong).toEqual(["pull"]);
  });
  it("are written with the figures worth reading", () => {
    expect([0, 0.5, 2.38095, 1234.56, 123_456.7, 0.00002].map(figures)).toEqual(["0", "0.5", "2.381", "1234.6", "123460", "2.000e-5"]);
    expect(shownIn(2200, "ohm", "kohm")).toBe("2.2 kΩ");
    expect(shownIn(20, "degC", "degF")).toBe("68 °F");
    expect(shownIn(58, "", "")).toBe("58");
    expect([unitFor(0.00119, "A"), unitFor(2, "A"), unitFor(2.4e-5, "V"), unitFor(47_000, "ohm"), unitFor(58, "")]).toEqual(["mA", "A", "mV", "kohm", ""]);
  });
});
