import { BadInput } from "@fox-lamp/language";

/** Appends to one job that may be with the database at once, and that may wait behind them. */
const MOST_AT_ONCE = 2;
const MOST_WAITING = 200;

/** Too many want the same at once: whoever asks should ask again in a moment. */
export class Busy extends BadInput {
  constructor() {
    super({ code: "job:busy", where: "id", message: "so many write in this job at once that not all can wait; nothing was stored, try again in a moment" });
  }
}

/** A lane for every job: what many send to one job waits here, in its order, and not with a connection of the database in hand. */
export class Lanes {
  private readonly lanes = new Map<string, { running: number; readonly queue: (() => void)[] }>();

  /** Runs a task in a job's lane. @throws Busy when too many wait there */
  async run<T>(job: string, task: () => Promise<T>): Promise<T> {
    const lane = this.lanes.get(job) ?? { running: 0, queue: [] };
    this.lanes.set(job, lane);
    if (lane.running >= MOST_AT_ONCE) {
      if (lane.queue.length >= MOST_WAITING) throw new Busy();
      await new Promise<void>((resolve) => lane.queue.push(resolve));
    } else lane.running += 1;
    try {
      return await task();
    } finally {
      const next = lane.queue.shift();
      if (next !== undefined) next();
      else {
        lane.running -= 1;
        if (lane.running === 0) this.lanes.delete(job);
      }
    }
  }
}
