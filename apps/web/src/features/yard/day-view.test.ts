import type { JobSummary } from "@fox-lamp/language";
import { byDay } from "./DayView";

const job = (id: string, promisedAt: string | null) => ({ id, promisedAt }) as JobSummary;
const in_ = (hours: number): string => new Date(Date.now() + hours * 3_600_000).toISOString();

describe("what is promised when", () => {
  it("stands by day, the soonest first, what is late before all; what is not promised does not stand there", () => {
    const days = byDay(
      [job("later", in_(24 * 9)), job("late", in_(-3)), job("never", null), job("soon", in_(24 * 5)), job("sooner", in_(24 * 5 - 1))],
      new Date(),
    );
    expect(days.map(({ jobs }) => jobs.map(({ id }) => id))).toEqual(expect.arrayContaining([["late"], ["later"]]));
    expect(days[0]?.day).toBe("Overdue");
    expect(days.flatMap(({ jobs }) => jobs.map(({ id }) => id))).toEqual(["late", "sooner", "soon", "later"]);
  });
});
