import { FAMILIES } from "@fox-lamp/core";
import { fieldsOf, keepingOrigins, parametersIn, spreadExample, toleranceOf, toleranceTyped, typedOf } from "./parameters";

describe("a family's parameters as a form", () => {
  it.each(FAMILIES.map((family) => [family.id, family] as const))("%s: what its usual values say, typed, is what it accepts", (_id, family) => {
    const fields = fieldsOf(family);
    const texts = Object.fromEntries(fields.map(({ name, usual }) => [name, usual]));
    const { with: values, problems } = parametersIn(fields, texts);
    expect(problems).toEqual({});
    const parsed = family.parameters.safeParse(values);
    expect(parsed.error?.issues ?? []).toEqual([]);
    expect(parsed.data).toMatchObject(family.parameters.parse({}) as object);
  });
  it("leaves out what is not typed, and says what is no number and where", () => {
    const thermistor = FAMILIES.find(({ id }) => id === "thermistor-2w");
    const fields = thermistor ? fieldsOf(thermistor) : [];
    expect(parametersIn(fields, { pullup: "3,3e3", vref: "" })).toEqual({ with: { pullup: 3300 }, problems: {} });
    const { problems } = parametersIn(fields, { pullup: "two", curve: "20, 2500\n80 warm" });
    expect(problems["pullup"]).toContain('"two"');
    expect(problems["curve"]).toContain("Line 2");
  });
  it("takes a number with how far it may be off, and shows it so again", () => {
    const throttle = FAMILIES.find(({ id }) => id === "potentiometer-3w");
    const fields = throttle ? fieldsOf(throttle) : [];
    const { with: values, problems } = parametersIn(fields, { vref: "5 ± 50m" });
    expect(problems).toEqual({});
    expect(values).toEqual({ vref: { value: 5, from: "specified", spread: 0.05 } });
    expect(typedOf(values["vref"])).toBe("5 ± 0.05");
    expect(parametersIn(fields, { vref: "5 +- 0,1" }).with).toEqual({ vref: { value: 5, from: "specified", spread: 0.1 } });
    expect(parametersIn(fields, { vref: "5 ± wide" }).problems["vref"]).toContain("wide");
  });
  it("keeps where a value comes from while it stays what it was", () => {
    const before = { vref: { value: 5, from: "sister", source: "Brisk 4" }, pullup: 2200 };
    expect(keepingOrigins({ vref: 5, pullup: 1000 }, before)).toEqual({ vref: before.vref, pullup: 1000 });
    expect(keepingOrigins({ vref: 8 }, before)).toEqual({ vref: 8 });
    expect(keepingOrigins({ vref: 5 })).toEqual({ vref: 5 });
  });
  it("takes a curve's tolerance in percent", () => {
    expect([toleranceTyped("5"), toleranceTyped("2,5 %"), toleranceTyped(""), toleranceTyped("some"), toleranceTyped("500")]).toEqual([
      0.05,
      0.025,
      null,
      null,
      null,
    ]);
    const curve = [
      [0, 1],
      [1, 2],
    ];
    expect([toleranceOf({ value: curve, from: "specified", spread: 0.05 }), toleranceOf(curve), toleranceOf(undefined)]).toEqual(["5", "", ""]);
    expect(typedOf({ value: curve, from: "specified", spread: 0.05 })).toBe("0, 1\n1, 2");
  });
  it("types a list of pairs one a line", () => {
    expect(
      typedOf([
        [20, 2500],
        [80, 320],
      ]),
    ).toBe("20, 2500\n80, 320");
    expect(typedOf(undefined)).toBe("");
  });
  it("shows how a spread is typed by the field's own usual value", () => {
    expect(spreadExample("12")).toBe("12 ± 0.1");
    expect(spreadExample("5")).toBe("5 ± 0.05");
    expect(spreadExample("2200")).toBe("2200 ± 20");
    expect([spreadExample(""), spreadExample("90, 120")]).toEqual(["5 ± 0.05", "5 ± 0.05"]);
  });
});
