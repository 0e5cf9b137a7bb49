import type { Figures } from "@fox-lamp/language";
import { sql } from "drizzle-orm";
import type { Database } from "./open";

/** Within how many days a job on the same vehicle for the same code is the same trouble again. */
const COMEBACK_DAYS = 90;
/** What a sensor costs in minutes of work, for what was saved by not guessing. */
const PART_MINUTES = 40;
const MOST_LISTED = 12;

interface Totals {
  readonly jobs: number;
  readonly closed: number;
  readonly proven: number;
  readonly minutes: number | null;
  readonly saved: number;
}

/** How a shop does, counted by the database from what jobs have been folded to. */
export class FiguresRepository {
  constructor(private readonly database: Database) {}

  /** @param moneyPerHour what an hour costs here */
  async of(shopId: string, moneyPerHour: number): Promise<Figures> {
    const query = async <T>(text: ReturnType<typeof sql>): Promise<T[]> => (await this.database.execute(text)).rows as T[];
    const [[totals], outcomes, [back], overrides, faults] = await Promise.all([
      query<Totals>(sql`
        select count(*)::int as jobs, count(*) filter (where stage = 'closed')::int as closed, count(verdict)::int as proven,
          avg(minutes) filter (where verdict is not null) as minutes,
          count(*) filter (where verdict is not null and verdict not like '%/sensor')::int as saved
        from jobs where shop_id = ${shopId}`),
      query<{ outcome: string; count: number }>(sql`
        select outcome, count(*)::int as count from jobs where shop_id = ${shopId} and outcome is not null group by outcome`),
      query<{ count: number }>(sql`
        select count(*)::int as count from jobs later where later.shop_id = ${shopId} and exists (
          select 1 from jobs earlier where earlier.shop_id = later.shop_id and earlier.vehicle_id = later.vehicle_id and earlier.id < later.id and earlier.stage = 'closed'
            and later.created_at < earlier.updated_at + make_interval(days => ${COMEBACK_DAYS})
            and earlier.codes <> '[]'::jsonb and exists (
              select 1 from jsonb_array_elements_text(earlier.codes) code where later.codes ? code.value))`),
      query<Figures["overrides"][number]>(sql`
        select id as job, number::int as number, item ->> 'unit' as unit, (item ->> 'probability')::real as probability,
          case when verdict is null then null else verdict = item ->> 'unit' end as "right"
        from jobs cross join lateral jsonb_array_elements(overrides) item
        where shop_id = ${shopId} and overrides <> '[]'::jsonb order by updated_at desc limit ${MOST_LISTED}`),
      query<Figures["faults"][number]>(sql`
        select coalesce(nullif(concat_ws(' ', v.details ->> 'make', v.details ->> 'model'), ''), v.details ->> 'name', '') as vehicle, j.verdict as unit,
          coalesce((select c ->> 'title' from jsonb_array_elements(j.circuits) c where c ->> 'id' = split_part(j.verdict, '/', 1) limit 1), j.title) as circuit,
          count(*)::int as count
        from jobs j join vehicles v on v.shop_id = j.shop_id and v.id = j.vehicle_id where j.shop_id = ${shopId} and j.verdict is not null
        group by 1, 2, 3 order by 4 desc, 1, 2 limit ${MOST_LISTED}`),
    ]);
    const saved = totals?.saved ?? 0;
    return {
      jobs: totals?.jobs ?? 0,
      closed: totals?.closed ?? 0,
      proven: totals?.proven ?? 0,
      meanMinutes: totals?.minutes ?? null,
      partsSaved: saved,
      moneySaved: (saved * PART_MINUTES * moneyPerHour) / 60,
      comebacks: back?.count ?? 0,
      overrides,
      faults,
      outcomes: Object.fromEntries(outcomes.map(({ outcome, count }) => [outcome, count])),
    };
  }
}
