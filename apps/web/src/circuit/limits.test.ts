import { showIn } from "../ui/display";
import { isWithin, limitsText, limitsTyped } from "./limits";

describe("limits of a book", () => {
  afterEach(() => showIn({ temperature: "degC", pressure: "kPa" }));
  it.each([
    ["4.95 to 5.05", "V", { low: 4.95, high: 5.05 }],
    ["90k, 120k", "ohm", { low: 90_000, high: 120_000 }],
    ["-250m to 250m", "V", { low: -0.25, high: 0.25 }],
    ["under 100m", "V", { high: 0.1 }],
    ["< 0.1 V", "V", { high: 0.1 }],
    ["at least 10k", "ohm", { low: 10_000 }],
    ["5 ± 0.1", "V", { low: 4.9, high: 5.1 }],
    ["5 V +/- 2 %", "V", { low: 4.9, high: 5.1 }],
  ])("%s %s", (text, unit, limits) => expect(limitsTyped(text, unit)).toEqual({ ok: true, limits }));
  it.each(["4.95", "", "about five", "4.95 Hz to 5.05 Hz", "under much"])("%j is refused in one sentence", (text) => {
    expect(limitsTyped(text, "V")).toMatchObject({ ok: false, message: expect.stringContaining("expected such as 4.95 to 5.05") });
  });
  it("are typed and shown in the units of this device", () => {
    showIn({ temperature: "degF", pressure: "kPa" });
    expect(limitsTyped("32 to 212", "degC")).toEqual({ ok: true, limits: { low: 0, high: 100 } });
    expect(limitsText({ low: 0, high: 100, source: "page 7" }, "degC")).toBe("32 to 212 °F (page 7)");
    expect(limitsText({ high: 0.1 }, "V")).toBe("up to 0.10 V");
  });
  it("judge a value, and both ends of a recording", () => {
    expect([4.94, 4.95, 5.06].map((value) => isWithin(value, { low: 4.95, high: 5.05 }))).toEqual([false, true, false]);
    expect(isWithin({ min: 4.96, max: 5.2 }, { low: 4.95, high: 5.05 })).toBe(false);
    expect(isWithin("OL", { low: 1e6 })).toBe(true);
    expect(isWithin("OL", { high: 10 })).toBe(false);
    expect(isWithin("lit", { low: 1 })).toBeNull();
  });
});
