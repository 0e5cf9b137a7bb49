import { buildModel, scopeAdvice, wrongSetup } from "@fox-lamp/core";
import { adviceLines, wrongSays } from "./advice-text";

const CRANK = [{ id: "crank", family: "vr-2w", with: { teeth: 60, missing: 2 } }];

it("a set-up is told in the order it is made: leads, range, time, trigger, peaks", () => {
  const model = buildModel(CRANK);
  const lines = adviceLines(scopeAdvice(model, model.circuits[0] as (typeof model.circuits)[number], { key: "crank" }));
  expect(lines.map((line) => line.split(" ")[0])).toEqual(["Leads:", "Range:", "Time:", "Trigger:", "Peak"]);
  expect(lines[0]).toMatch(/back-probe sig\+ at the sensor, ground lead on sig-/u);
});

it("what is hidden is told in figures of the very signal", () => {
  const says = (which: Parameters<typeof wrongSays>[0]): string =>
    wrongSays(which, wrongSetup([{ id: "cam", family: "hall-3w" }], "cam", { key: "idle" }, which));
  expect(says("coarse-range")).toMatch(/^At 400(\.\d)? V full scale an 8-bit scope knows steps of 3\.1\d+ V/u);
  expect(says("slow-rate")).toMatch(/^At [\d,.]+ samples a second \d+ edges have become \d+: a signal that is not there\.$/u);
  expect(says("no-peak")).toMatch(/there was a spike to/u);
  expect(says("small-range")).toMatch(/^Above \d/u);
  expect(says("ac-coupling")).toMatch(/stand/u);
});
