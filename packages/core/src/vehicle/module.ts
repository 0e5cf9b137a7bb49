import type { Code } from "@fox-lamp/language";

/** What the module watches of one signal at one moment. */
export interface Watch {
  readonly circuit: string;
  /** The code it sets when the condition has lasted. */
  readonly code: string;
  readonly kind: "low" | "high" | "no-activity" | "correlation" | "circuit" | "heater" | "consequence";
  readonly failing: boolean;
}

/** Electrical faults are set at once and light the lamp; comparisons need a second trip. */
const TRIPS: Readonly<Record<Watch["kind"], number>> = { low: 1, high: 1, "no-activity": 1, circuit: 1, heater: 2, correlation: 2, consequence: 2 };
/** A condition must last this long before it counts, seconds. */
const LAST_SECONDS: Readonly<Record<Watch["kind"], number>> = {
  low: 0.3,
  high: 0.3,
  "no-activity": 1,
  circuit: 0.5,
  heater: 0.5,
  correlation: 0.6,
  consequence: 1.5,
};

interface Kept {
  readonly watch: Watch;
  since: number | null;
  failedThisTrip: boolean;
  trips: number;
  freezeFrame: Readonly<Record<string, string>> | null;
  status: "pending" | "current" | "history" | null;
}

/** The module's memory of codes: conditions that last, trips, freeze frames, the lamp. */
export class CodeMemory {
  private readonly kept = new Map<string, Kept>();

  /** Takes a look at all conditions at a time; `frame` is stored with a code when it is first set. */
  update(watches: readonly Watch[], seconds: number, frame: () => Readonly<Record<string, string>>): void {
    for (const watch of watches) {
      const known = this.kept.get(watch.code);
      const entry: Kept = known ?? { watch, since: null, failedThisTrip: false, trips: 0, freezeFrame: null, status: null };
      this.kept.set(watch.code, entry);
      if (!watch.failing) {
        entry.since = null;
        continue;
      }
      entry.since ??= seconds;
      if (seconds - entry.since < LAST_SECONDS[watch.kind] || entry.failedThisTrip) continue;
      entry.failedThisTrip = true;
      entry.trips += 1;
      entry.freezeFrame ??= frame();
      entry.status = entry.trips >= TRIPS[watch.kind] ? "current" : "pending";
    }
  }

  /** The key was off and comes on again: a fault that does not come back becomes history. */
  newTrip(): void {
    for (const entry of this.kept.values()) {
      if (!entry.failedThisTrip && entry.status === "current") entry.status = "history";
      if (!entry.failedThisTrip && entry.status === "pending") entry.status = null;
      entry.failedThisTrip = false;
      entry.since = null;
    }
  }

  clear(): void {
    this.kept.clear();
  }

  codes(): Code[] {
    return [...this.kept.values()].flatMap(({ watch, status, freezeFrame }) =>
      status === null ? [] : [{ code: watch.code, status, ...(freezeFrame === null ? {} : { freezeFrame: { ...freezeFrame } }) }],
    );
  }

  /** The lamp is on while a current code is stored. */
  lamp(): boolean {
    return [...this.kept.values()].some(({ status }) => status === "current");
  }
}
