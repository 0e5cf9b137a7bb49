import { nameLines } from "./name-lines";

describe("a name in its box", () => {
  it("stands with its percentage below its first word where that fits", () => {
    expect(nameLines("Temperature sensor", "24 %")).toEqual({ first: "Temperature", second: "sensor 24 %", beside: "" });
    expect(nameLines("Module", "")).toEqual({ first: "Module", second: "", beside: "" });
  });

  it("is broken later where the second line would run out, with the percentage above", () => {
    expect(nameLines("Pedal or throttle sensor", "24 %")).toEqual({ first: "Pedal or", second: "throttle sensor", beside: "24 %" });
  });

  it("gives way to its standing in the box of a phone, but for its first word", () => {
    expect(nameLines("Pedal or throttle sensor", "24 %", true)).toEqual({ first: "Pedal", second: "24 %", beside: "" });
    expect(nameLines("Temperature sensor", "", true)).toEqual({ first: "Temperature", second: "sensor", beside: "" });
  });

  it("keeps every word in its order, and one for the second line", () => {
    for (const title of ["Pedal or throttle sensor", "A b c d e f g h i j k l m n", "Extraordinarily long unbreakable"]) {
      const { first, second } = nameLines(title, "100 %");
      expect(`${first} ${second}`).toBe(title);
      expect(second).not.toBe("");
    }
  });
});
