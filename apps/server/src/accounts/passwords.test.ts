import { assertUncommon, isCommon } from "./passwords";

it.each([
  ["password", true],
  ["Password123", true],
  ["12345678", true],
  ["qwertyuiop", true],
  ["aaaaaaaaaa", true],
  ["football2024!", true],
  ["lamp-on-the-bench", false],
  ["first-through-the-door", false],
  ["gh7-Kolibri-zaun", false],
])("%s is common: %s", (password, common) => {
  expect(isCommon(password)).toBe(common);
});

it("a person's own name is no password", () => {
  expect(isCommon("WrenHalloran", "Wren Halloran", "wren")).toBe(true);
  expect(isCommon("wren2024", "Wren Halloran", "wren")).toBe(true);
  expect(() => assertUncommon("halloran-wren-9", "password", "Wren Halloran", "wren")).not.toThrow();
  expect(() => assertUncommon("iloveyou1", "newPassword", "Wren")).toThrow(
    expect.objectContaining({ problem: expect.objectContaining({ where: "newPassword" }) }),
  );
});
