/** How a channel is shown after the fact: nothing of it changes the samples that are kept. */
export interface LaneSetting {
  /** Ends of its scale in its unit; null for all that was seen. */
  readonly scale: { readonly low: number; readonly high: number } | null;
  /** `ac` takes its average away. */
  readonly coupling: "dc" | "ac";
  /** Shorter than this is smoothed away, seconds; 0 for nothing. */
  readonly filterSeconds: number;
  readonly hidden: boolean;
}

/** How all channels are shown: in which order, and each of them. */
export interface LaneSettings {
  readonly order: readonly number[];
  readonly of: readonly LaneSetting[];
}

const PLAIN: LaneSetting = { scale: null, coupling: "dc", filterSeconds: 0, hidden: false };

/** Filters that can be chosen, seconds. */
export const FILTERS = [0, 0.0001, 0.001, 0.01, 0.1] as const;

/** Every channel as it came, in its order. */
export function plainLanes(channels: number): LaneSettings {
  return { order: Array.from({ length: channels }, (_, index) => index), of: Array.from({ length: channels }, () => PLAIN) };
}

/** One channel shown otherwise. */
export function withLane(settings: LaneSettings, channel: number, change: Partial<LaneSetting>): LaneSettings {
  return { ...settings, of: settings.of.map((one, index) => (index === channel ? { ...one, ...change } : one)) };
}

/** One channel moved among those that are shown. @param by -1 up, 1 down */
export function movedLane(settings: LaneSettings, channel: number, by: -1 | 1): LaneSettings {
  const shown = shownLanes(settings);
  const target = shown[shown.indexOf(channel) + by];
  if (target === undefined) return settings;
  return { ...settings, order: settings.order.map((one) => (one === channel ? target : one === target ? channel : one)) };
}

/** Channels that are shown, from the top. */
export function shownLanes({ order, of }: LaneSettings): number[] {
  return order.filter((channel) => of[channel]?.hidden !== true);
}

/** Samples that are averaged for a filter; 1 for none. */
export function windowOf({ filterSeconds }: Pick<LaneSetting, "filterSeconds">, rate: number): number {
  return Math.max(1, Math.round(filterSeconds * rate));
}

/** What is taken off a channel while it is shown: its average, where it is coupled so. */
export function lessOf({ coupling }: Pick<LaneSetting, "coupling">, mean: number | undefined): number {
  return coupling === "ac" ? (mean ?? 0) : 0;
}

/** A scale of which one end was moved; null where it would be none. */
export function scaleSaid(low: number, high: number): LaneSetting["scale"] {
  return Number.isFinite(low) && Number.isFinite(high) && high > low ? { low, high } : null;
}
