interface Kept {
  readonly value: unknown;
  readonly bytesOf: () => number;
  bytes: number;
  /** When it was last asked for, counted in questions. */
  used: number;
}

/** When the budget is passed, as much is forgotten as leaves this share of it: sorting by age is not done for every value. */
const KEPT_SHARE = 0.75;

/**
 * Keeps what was computed, by a key that names all it depends on, up to a number of bytes. What was asked for last is forgotten last.
 * Sizes are estimates and may grow after a value was kept: they are taken anew whenever the value is asked for. Forgetting changes
 * nothing but the time the next answer takes.
 */
export class BoundedCache {
  private readonly entries = new Map<string, Kept>();
  private held = 0;
  private questions = 0;

  /** @param budgetBytes what may be held; the value asked for last is held however large it is */
  constructor(readonly budgetBytes: number) {}

  /** Bytes held, as last estimated. */
  get bytes(): number {
    return this.held;
  }

  /** Number of values held. */
  get count(): number {
    return this.entries.size;
  }

  /**
   * What was kept under a key, or is made now and kept.
   *
   * @param key names the kind of value and everything it depends on; one key is always used with values of one type
   * @param bytesOf estimate of a value's size
   */
  keep<T>(key: string, make: () => T, bytesOf: (value: T) => number): T {
    const known = this.entries.get(key);
    if (known !== undefined) {
      this.use(known);
      return known.value as T;
    }
    const value = make();
    // Making a value may have kept the same key on the way.
    this.forget(key);
    const kept: Kept = { value, bytesOf: () => bytesOf(value), bytes: 0, used: 0 };
    this.entries.set(key, kept);
    this.use(kept);
    return value;
  }

  /** Whether something is kept under a key; asking does not count as use. */
  has(key: string): boolean {
    return this.entries.has(key);
  }

  private use(kept: Kept): void {
    this.questions += 1;
    kept.used = this.questions;
    const bytes = kept.bytesOf();
    this.held += bytes - kept.bytes;
    kept.bytes = bytes;
    if (this.held > this.budgetBytes) this.shrink(kept);
  }

  private shrink(latest: Kept): void {
    const oldest = [...this.entries].filter(([, kept]) => kept !== latest).sort(([, a], [, b]) => a.used - b.used);
    for (const [key] of oldest) {
      if (this.held <= KEPT_SHARE * this.budgetBytes) return;
      this.forget(key);
    }
  }

  private forget(key: string): void {
    this.held -= this.entries.get(key)?.bytes ?? 0;
    this.entries.delete(key);
  }
}
