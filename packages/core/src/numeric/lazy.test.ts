import { lazy } from "./lazy";

describe("a value worked out when it is first asked for", () => {
  it("is not made before, and once after", () => {
    let made = 0;
    const value = lazy(() => {
      made += 1;
      return { made };
    });
    expect(made).toBe(0);
    expect(value()).toBe(value());
    expect(made).toBe(1);
  });
  it("may be nothing, and is not made again for that", () => {
    let made = 0;
    const nothing = lazy(() => {
      made += 1;
      return undefined;
    });
    expect([nothing(), nothing(), made]).toEqual([undefined, undefined, 1]);
  });
  it("is made again after it failed", () => {
    let tries = 0;
    const value = lazy(() => {
      tries += 1;
      if (tries === 1) throw new Error("not yet");
      return tries;
    });
    expect(() => value()).toThrow("not yet");
    expect(value()).toBe(2);
  });
});
