import { formatQuantity, type MeterView } from "@fox-lamp/core";
import { messages } from "../../messages";

const t = messages.traces;
/** Peaks the record misses by less than this are no reason for a word, volts. */
const MISSED_VOLTS = 0.25;
/** A signal that swings less stands still for a meter, volts. */
const STILL_VOLTS = 0.06;

/** Lowest and highest of a stretch, as the scope has them. */
export interface Extent {
  readonly low: number;
  readonly high: number;
}

/** What a meter would have shown of a stretch, a line each. */
export function meterLines({ dc, acTrueRms, acAverageResponding, min, max, hertz, duty }: MeterView, unit: string): string[] {
  const shown = (value: number): string => formatQuantity(value, unit);
  return [
    t.meterDc(shown(dc)),
    t.meterAc(shown(acTrueRms), shown(acAverageResponding)),
    t.meterMinMax(shown(min), shown(max)),
    hertz === null || duty === null ? t.meterNoHertz : t.meterHertz(formatQuantity(hertz, "Hz"), `${duty.toFixed(0)} %`),
  ];
}

/** Why the meter shows that: it averages, it misses what is short, or there is nothing to average. */
export function meterWhy({ dc, max, min, duty }: MeterView, { low, high }: Extent, unit: string): string[] {
  const shown = (value: number): string => formatQuantity(value, unit);
  if (high - low < STILL_VOLTS) return [t.whySteady(shown(dc))];
  const why: string[] = [];
  // The share of the time low that makes the average, as for a signal of two levels.
  if (duty !== null) why.push(t.whyAverage(shown(dc), shown(low), (100 - duty).toFixed(0), shown(high)));
  if (high - max > MISSED_VOLTS) why.push(t.whyMissed(shown(high), shown(max)));
  else if (min - low > MISSED_VOLTS) why.push(t.whyMissed(shown(low), shown(min)));
  return why;
}
