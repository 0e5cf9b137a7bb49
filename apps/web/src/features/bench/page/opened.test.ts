import { openedAfter } from "./opened";

describe("what is open over the bench", () => {
  it("is one thing at a time", () => {
    expect(openedAfter(null, "own", true)).toBe("own");
    expect(openedAfter("others", "own", true)).toBe("own");
    expect(openedAfter("own", "own", false)).toBeNull();
  });
  it("stays when the menu that opened it closes behind it", () => {
    expect(openedAfter("own", "others", false)).toBe("own");
    expect(openedAfter(null, "others", false)).toBeNull();
  });
});
