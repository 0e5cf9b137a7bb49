import type { FigureRow, Figures, FiguresQuery } from "@fox-lamp/language";
import { type SQL, sql } from "drizzle-orm";
import type { Database } from "./open";
import { containing } from "./vehicles";

/** Within how many days a job on the same vehicle for the same code is the same trouble again. */
const COMEBACK_DAYS = 90;
/** What a part costs in minutes of work, for what was saved by not guessing. */
const PART_MINUTES = 40;
const MOST_LISTED = 12;
const MOST_MONTHS = 24;
const MOST_ROWS = 5000;

/** Verdicts that are about a part: replaced, it was no guess. */
const ABOUT_A_PART = sql`(j.verdict like '%/sensor' or j.verdict like '%/heater' or j.verdict like '%/coil' or j.verdict like '%/battery')`;

interface Totals {
  readonly jobs: number;
  readonly closed: number;
  readonly proven: number;
  readonly clock: number | null;
  readonly clocked: number;
  readonly saved: number;
}

/** How a shop does, counted by the database from what jobs have been folded to. */
export class FiguresRepository {
  constructor(private readonly database: Database) {}

  private async query<T>(text: SQL): Promise<T[]> {
    return (await this.database.execute(text)).rows as T[];
  }

  /** @param moneyPerHour what an hour costs here */
  async of(shopId: string, moneyPerHour: number, asked: FiguresQuery = {}): Promise<Figures> {
    const wanted = among(shopId, asked);
    const [[totals], outcomes, [back], overrides, faults, months, families] = await Promise.all([
      this.query<Totals>(sql`
        select count(*)::int as jobs, count(*) filter (where j.stage = 'closed')::int as closed, count(j.verdict)::int as proven,
          percentile_cont(0.5) within group (order by j.verdict_minutes) as clock, count(j.verdict_minutes)::int as clocked,
          count(*) filter (where j.verdict is not null and not ${ABOUT_A_PART})::int as saved
        from ${wanted}`),
      this.query<{ outcome: string; count: number }>(sql`
        select j.outcome, count(*)::int as count from ${wanted} and j.outcome is not null group by j.outcome`),
      this.query<{ count: number }>(sql`
        select count(*)::int as count from ${wanted} and exists (
          select 1 from jobs earlier where earlier.shop_id = j.shop_id and earlier.vehicle_id = j.vehicle_id and earlier.id < j.id and earlier.stage = 'closed'
            and j.created_at < earlier.updated_at + make_interval(days => ${COMEBACK_DAYS})
            and earlier.codes <> '[]'::jsonb and exists (
              select 1 from jsonb_array_elements_text(earlier.codes) code where j.codes ? code.value))`),
      this.query<Figures["overrides"][number]>(sql`
        select j.id as job, j.number::int as number, item ->> 'unit' as unit, (item ->> 'probability')::real as probability,
          case when j.verdict is null then null else j.verdict = item ->> 'unit' end as "right"
        from jobs j join vehicles v on v.shop_id = j.shop_id and v.id = j.vehicle_id cross join lateral jsonb_array_elements(j.overrides) item
        where ${conditions(shopId, asked)} and j.overrides <> '[]'::jsonb order by j.updated_at desc limit ${MOST_LISTED}`),
      this.query<Figures["faults"][number]>(sql`
        select coalesce(nullif(concat_ws(' ', v.details ->> 'make', v.details ->> 'model'), ''), v.details ->> 'name', '') as vehicle, j.verdict as unit,
          coalesce((select c ->> 'title' from jsonb_array_elements(j.circuits) c where c ->> 'id' = split_part(j.verdict, '/', 1) limit 1), j.title) as circuit,
          count(*)::int as count
        from ${wanted} and j.verdict is not null group by 1, 2, 3 order by 4 desc, 1, 2 limit ${MOST_LISTED}`),
      this.query<Figures["months"][number]>(sql`
        select to_char(j.created_at, 'YYYY-MM') as month, count(*)::int as opened, count(j.verdict)::int as proven,
          percentile_cont(0.5) within group (order by j.verdict_minutes) as minutes
        from ${wanted} group by 1 order by 1 desc limit ${MOST_MONTHS}`),
      this.query<{ family: string }>(sql`select distinct j.family from jobs j where j.shop_id = ${shopId} and j.family is not null order by 1`),
    ]);
    const saved = totals?.saved ?? 0;
    return {
      jobs: totals?.jobs ?? 0,
      closed: totals?.closed ?? 0,
      proven: totals?.proven ?? 0,
      clockMinutes: totals?.clock ?? null,
      clocked: totals?.clocked ?? 0,
      partsSaved: saved,
      moneySaved: (saved * PART_MINUTES * moneyPerHour) / 60,
      partMinutes: PART_MINUTES,
      comebacks: back?.count ?? 0,
      overrides,
      faults,
      outcomes: Object.fromEntries(outcomes.map(({ outcome, count }) => [outcome, count])),
      months: months.reverse(),
      families: families.map(({ family }) => family),
    };
  }

  /** The jobs the figures are counted from, the latest first, for a table. */
  rows(shopId: string, asked: FiguresQuery = {}): Promise<FigureRow[]> {
    return this.query<FigureRow>(sql`
      select j.number::int as number, concat_ws(' ', v.details ->> 'name', v.details ->> 'plate') as vehicle, j.title as circuits, j.complaint,
        coalesce((select string_agg(code.value, ' ') from jsonb_array_elements_text(j.codes) code), '') as codes, j.stage, j.outcome, j.verdict as unit,
        j.verdict_minutes as minutes, j.readings, j.assigned_to as person, to_char(j.created_at at time zone 'UTC', 'YYYY-MM-DD') as opened,
        to_char(j.updated_at at time zone 'UTC', 'YYYY-MM-DD') as touched
      from ${among(shopId, asked)} order by j.number desc limit ${MOST_ROWS}`);
  }
}

/** What jobs `j` on vehicles `v` must be to be counted. */
function conditions(shopId: string, { from, to, person, vehicle, family }: FiguresQuery): SQL {
  const parts = [
    sql`j.shop_id = ${shopId}`,
    ...(from === undefined ? [] : [sql`j.created_at >= ${from}::date`]),
    ...(to === undefined ? [] : [sql`j.created_at < ${to}::date + 1`]),
    ...(person === undefined ? [] : [sql`j.assignee_id = ${person}`]),
    ...(family === undefined ? [] : [sql`j.family = ${family}`]),
    ...(vehicle ?? "").split(/\s+/u).flatMap((word) => (word === "" ? [] : [sql`v.search like ${containing(word)}`])),
  ];
  return sql.join(parts, sql` and `);
}

/** The jobs that are counted, with their vehicles; further conditions follow with "and". */
function among(shopId: string, asked: FiguresQuery): SQL {
  return sql`jobs j join vehicles v on v.shop_id = j.shop_id and v.id = j.vehicle_id where ${conditions(shopId, asked)}`;
}
