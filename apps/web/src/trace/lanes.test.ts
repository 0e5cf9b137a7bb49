import { lessOf, movedLane, plainLanes, scaleSaid, shownLanes, windowOf, withLane } from "./lanes";

describe("lanes as they are shown", () => {
  it("keep their order until one is moved, past those that are hidden", () => {
    const plain = plainLanes(4);
    expect(shownLanes(plain)).toEqual([0, 1, 2, 3]);
    expect(shownLanes(movedLane(plain, 2, -1))).toEqual([0, 2, 1, 3]);
    const hidden = withLane(plain, 1, { hidden: true });
    expect(shownLanes(hidden)).toEqual([0, 2, 3]);
    expect(shownLanes(movedLane(hidden, 2, -1))).toEqual([2, 0, 3]);
    expect(movedLane(plain, 0, -1)).toBe(plain);
    expect(movedLane(plain, 3, 1)).toBe(plain);
  });
  it("change one at a time", () => {
    const settings = withLane(plainLanes(2), 1, { coupling: "ac", filterSeconds: 0.001 });
    expect(settings.of[0]).toEqual(plainLanes(1).of[0]);
    expect(settings.of[1]).toMatchObject({ coupling: "ac", filterSeconds: 0.001, scale: null });
    expect(lessOf(settings.of[1] ?? { coupling: "dc" }, 2.5)).toBe(2.5);
    expect(lessOf({ coupling: "dc" }, 2.5)).toBe(0);
  });
  it("are smoothed over as many samples as the time holds", () => {
    expect(windowOf({ filterSeconds: 0 }, 10_000)).toBe(1);
    expect(windowOf({ filterSeconds: 0.001 }, 10_000)).toBe(10);
    expect(windowOf({ filterSeconds: 0.0001 }, 1000)).toBe(1);
  });
  it("have a scale only with its top above its foot", () => {
    expect(scaleSaid(-1, 5)).toEqual({ low: -1, high: 5 });
    expect([scaleSaid(5, 5), scaleSaid(Number.NaN, 5), scaleSaid(0, Number.POSITIVE_INFINITY)]).toEqual([null, null, null]);
  });
});
