import { meterView } from "@fox-lamp/core";
import { meterLines, meterWhy } from "./between-text";

const pulses = Float32Array.from({ length: 10_000 }, (_, at) => (at % 100 < 10 ? 5.2 : 0.02));
const whole = { from: 0, to: pulses.length };

it("a meter's average is told with the time the signal is low", () => {
  const view = meterView(pulses, 10_000, whole);
  expect(meterLines(view, "V")[0]).toBe("DC: 0.54 V");
  expect(meterWhy(view, { low: 0.02, high: 5.2 }, "V")[0]).toBe(
    "A meter would show 0.54 V here, because the signal is at 20 mV for 90 % of the time and at 5.20 V for the rest: it averages.",
  );
});

it("a spike that a min/max record misses is named", () => {
  const spiked = Float32Array.from({ length: 10_000 }, (_, at) => (at === 5000 ? 9 : 2));
  const view = meterView(spiked, 10_000, whole);
  expect(view.max).toBeLessThan(2.1);
  expect(meterWhy(view, { low: 2, high: 9 }, "V").at(-1)).toContain("would miss the 9.00 V");
});

it("what stands still has nothing to average", () => {
  const view = meterView(new Float32Array(1000).fill(2.5), 1000, { from: 0, to: 1000 });
  expect(meterWhy(view, { low: 2.5, high: 2.5 }, "V")).toEqual(["A meter would show 2.50 V here: the signal stands still, and there is nothing to average."]);
  expect(meterLines(view, "V").at(-1)).toBe("Hertz and duty: nothing, it does not trigger");
});
