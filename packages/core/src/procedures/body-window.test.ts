import type { Measurement } from "@fox-lamp/language";
import { buildModel } from "../circuit";
import { expectHealthy } from "./expect";

const model = buildModel([{ id: "x", family: "hall-3w" }]);
const body = (setup: Measurement["setup"], black = "bat-", red = "chassis"): number | null =>
  expectHealthy(model, { circuit: "x", meter: "volts-dc", red, black, setup }, "test")?.high ?? null;

describe("the window of the body against the battery's post", () => {
  it.each([["on"], ["idle"], ["rev"]] as const)("holds what every shop accepts with the key at %s, and no more", (key) => {
    expect(body({ key })).toBeGreaterThanOrEqual(0.1);
    expect(body({ key })).toBeLessThan(0.2);
  });
  it("is narrow where nothing draws, and another between other points", () => {
    expect(body({ key: "off" })).toBeLessThan(0.05);
    expect(body({}, "engine")).toBeLessThan(0.1);
  });
});
