import { FAMILIES } from "./index";
import { FAMILY_NAMES, familyNamed } from "./names";

describe("the names of the families", () => {
  it("are those of all families, in the order they are listed", () => {
    expect(FAMILY_NAMES).toEqual(FAMILIES.map(({ id, title, part }) => ({ id, title, part })));
  });
  it("are found by id", () => {
    expect(familyNamed("switch")).toEqual({ id: "switch", title: "Switch, two wires", part: "Switch" });
    expect(familyNamed("no-such-family")).toBeNull();
  });
});
