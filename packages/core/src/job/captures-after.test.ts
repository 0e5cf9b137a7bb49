import { capturesAgain } from "./captures-after";
import type { JobState } from "./state";

type Given = Pick<JobState, "captures" | "repairs">;
const capture = (id: string, at: string, findings: string[], channels = ["cam:sig"], known?: boolean) =>
  ({
    capture: id,
    at,
    findings,
    channels,
    title: id,
    seconds: 1,
    setup: {},
    by: "",
    entry: id,
    ...(known === undefined ? {} : { known }),
  }) as Given["captures"][number];
const repair = (at: string) => ({ at, by: "", entry: "r", text: "Ground wire mended" }) as Given["repairs"][number];

describe("captures that are due again after a repair", () => {
  const bad = capture("one", "2026-01-01T10:00:00Z", ["cam:gnd goes first"], ["cam:sig", "cam:gnd"]);
  it("are none before there is a repair, and none of those that showed nothing or are known good", () => {
    expect(capturesAgain({ captures: [bad], repairs: [] })).toEqual([]);
    const sound = capture("two", "2026-01-01T10:01:00Z", []);
    const known = capture("three", "2026-01-01T10:02:00Z", ["something"], ["cam:sig"], true);
    expect(capturesAgain({ captures: [sound, known], repairs: [repair("2026-01-01T11:00:00Z")] })).toEqual([]);
  });
  it("are repeated by one of the same channels taken since", () => {
    const repairs = [repair("2026-01-01T11:00:00Z")];
    const fewer = capture("two", "2026-01-01T12:00:00Z", [], ["cam:sig"]);
    const same = capture("three", "2026-01-01T12:10:00Z", [], ["bat+", "cam:gnd", "cam:sig"]);
    expect(capturesAgain({ captures: [bad, fewer], repairs })).toEqual([{ before: bad, after: null }]);
    expect(capturesAgain({ captures: [bad, fewer, same], repairs })).toEqual([{ before: bad, after: same }]);
  });
  it("are due anew after the next repair", () => {
    const first = capture("two", "2026-01-01T12:00:00Z", ["cam:gnd lifts"], ["cam:sig", "cam:gnd"]);
    const again = capturesAgain({ captures: [bad, first], repairs: [repair("2026-01-01T11:00:00Z"), repair("2026-01-01T13:00:00Z")] });
    expect(again.map(({ before, after }) => [before.capture, after])).toEqual([["two", null]]);
  });
});
