import { FAMILIES } from "@fox-lamp/core";
import { fieldsOf, parametersIn, typedOf } from "./parameters";

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
  it("types a list of pairs one a line", () => {
    expect(
      typedOf([
        [20, 2500],
        [80, 320],
      ]),
    ).toBe("20, 2500\n80, 320");
    expect(typedOf(undefined)).toBe("");
  });
});
