import { buildModel, FAMILIES, parameterTitle } from "./index";

describe.each(FAMILIES.map((family) => [family.id, family] as const))("what a silent sheet of %s leaves open", (id, family) => {
  it("can be asked for by name", () => {
    const silent = buildModel([{ id: "x", family: id }]).circuits[0]?.built.tolerances.flatMap(({ unsaid }) => unsaid?.slice(0, 1) ?? []) ?? [];
    for (const parameter of silent) expect([parameter, parameterTitle(family, parameter)]).toEqual([parameter, expect.stringMatching(/\w{3}/u)]);
  });
  it("has no title for what it does not have", () => expect(parameterTitle(family, "sparkle")).toBe(""));
});
