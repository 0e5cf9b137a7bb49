import { type Demonstration, formatQuantity, type ScopeAdvice, type WrongSetup } from "@fox-lamp/core";
import { messages } from "../../messages";

const t = messages.traces;
/** Steps of the scope a demonstration is made with. */
const STEPS = 256;

function count(value: number): string {
  return Number(value.toPrecision(3)).toLocaleString("en");
}

/** A set-up in lines, as it is told to somebody at the car. */
export function adviceLines({ pin, against, rangeVolts, seconds, rate, hertz, kind, triggerVolts, peakCapture }: ScopeAdvice): string[] {
  const { leads, range, time, why, trigger, roll, peak, noPeak } = t.advised;
  const times = count(hertz ?? 0);
  return [
    leads(pin, against === "bat-" ? t.batteryMinus : against),
    range(formatQuantity(rangeVolts, "V")),
    `${time(formatQuantity(seconds, "s"), count(rate))} ${why[kind](times)}`,
    triggerVolts === null ? roll : trigger(formatQuantity(triggerVolts, "V")),
    peakCapture ? peak : noPeak,
  ];
}

/** What a wrong set-up makes of a signal, in figures of that very signal. */
export function wrongSays(which: WrongSetup, { set, shown, instead }: Demonstration): string {
  const says = t.wrongSays;
  switch (which) {
    case "coarse-range":
      return says[which](formatQuantity(set, "V"), formatQuantity((2 * set) / STEPS, "V"));
    case "small-range":
      return says[which](formatQuantity(set, "V"), formatQuantity(shown.high, "V"));
    case "ac-coupling":
      return says[which](formatQuantity(set, "V"));
    case "slow-rate":
      return says[which](count(set), shown.edges, instead.edges);
    case "no-peak": {
      // The spike is below a signal that stands high.
      const down = Math.abs(shown.low - instead.low) > Math.abs(shown.high - instead.high);
      return says[which](count(set), formatQuantity(down ? shown.low : shown.high, "V"), formatQuantity(down ? instead.low : instead.high, "V"));
    }
  }
}
