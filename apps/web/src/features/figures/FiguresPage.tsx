import { familyNamed, formatPercent } from "@fox-lamp/core";
import { type FiguresQuery, OUTCOMES, unitTitle } from "@fox-lamp/language";
import { Download } from "lucide-react";
import Papa from "papaparse";
import { lazy, Suspense } from "react";
import { Link } from "react-router";
import { reasonOf, useFiguresQuery, useLazyFigureRowsQuery, useShopQuery } from "../../app/api";
import { DeadEnd } from "../../app/DeadEnd";
import { PageHead } from "../../app/shell";
import { type Asked, useAsked } from "../../app/use-asked";
import { messages } from "../../messages";
import { Block, Button, Select, TextField } from "../../ui/form";
import { saveAs } from "../../ui/picture";
import { PlainPage } from "../../ui/states";
import { toast } from "../../ui/toast";
import { figureRows } from "./figures-csv";

const t = messages.figures;
const FigureCharts = lazy(() => import("./FigureCharts"));
const ASKED = ["from", "to", "person", "vehicle", "family"] as const;

function Figure({ name, value, hint }: { name: string; value: string; hint?: string }) {
  return (
    <div className="rounded-xl border border-line bg-panel px-4 py-3">
      <dt className="text-sm text-soft">{name}</dt>
      <dd className="readout m-0 text-3xl font-bold">{value}</dd>
      {hint && <dd className="m-0 text-sm text-soft">{hint}</dd>}
    </div>
  );
}

/** Period, person, vehicle, family: what is counted. */
function Filters({ asked, families, onChange }: { asked: FiguresQuery; families: readonly string[]; onChange: (part: Asked<(typeof ASKED)[number]>) => void }) {
  const { data: shop } = useShopQuery();
  return (
    <fieldset className="m-0 grid grid-cols-2 gap-3 border-0 p-0 md:grid-cols-5">
      <legend className="sr-only">{t.counted}</legend>
      <TextField label={t.from} type="date" value={asked.from ?? ""} onChange={(event) => onChange({ from: event.target.value })} />
      <TextField label={t.to} type="date" value={asked.to ?? ""} onChange={(event) => onChange({ to: event.target.value })} />
      <Select
        label={messages.yard.person}
        value={asked.person ?? ""}
        options={[["", messages.yard.any], ...(shop?.people ?? []).map(({ id, name }) => [id, name] as const)]}
        onChange={(person) => onChange({ person })}
      />
      <TextField label={t.vehicle} value={asked.vehicle ?? ""} onChange={(event) => onChange({ vehicle: event.target.value })} />
      <Select
        label={messages.sheet.family}
        value={asked.family ?? ""}
        options={[["", messages.yard.any], ...families.map((family) => [family, familyNamed(family)?.title ?? family] as const)]}
        onChange={(family) => onChange({ family })}
      />
    </fieldset>
  );
}

/** Saves the jobs that are counted as a table. */
function SaveTable({ asked }: { asked: FiguresQuery }) {
  const [load, { isFetching }] = useLazyFigureRowsQuery();
  const save = async (): Promise<void> => {
    const answer = await load(asked);
    if (answer.data === undefined) toast.error(reasonOf(answer.error) ?? messages.states.failed);
    else saveAs(new Blob([Papa.unparse(figureRows(answer.data))], { type: "text/csv" }), "fox-lamp-jobs.csv");
  };
  return (
    <Button disabled={isFetching} onClick={() => void save()} className="flex items-center gap-2">
      <Download size={18} aria-hidden="true" /> {t.csv}
    </Button>
  );
}

/** How the shop does: time to a verdict, what was not replaced, what came back. */
export function FiguresPage() {
  const [asked, setAsked] = useAsked(ASKED);
  const { currentData, data: last, error, refetch } = useFiguresQuery(asked, { refetchOnMountOrArgChange: true });
  const data = currentData ?? last;
  const { data: shop } = useShopQuery();
  if (error) return <DeadEnd retry={() => void refetch()}>{reasonOf(error) ?? messages.states.failed}</DeadEnd>;
  if (!data) return <PlainPage>{messages.states.loading}</PlainPage>;
  const rightWord = (right: boolean | null): string => (right === null ? t.overrideOpen : right ? t.overrideRight : t.overrideWrong);
  return (
    <>
      <PageHead>
        <span className="text-soft">{shop?.name}</span>
      </PageHead>
      <main id="content" className="mx-auto w-full grid max-w-5xl flex-1 content-start gap-5 px-4 py-6">
        <div className="flex flex-wrap items-center gap-3">
          <h1 className="m-0 mr-auto text-2xl font-bold">{t.title}</h1>
          <SaveTable asked={asked} />
        </div>
        <Filters asked={asked} families={data.families} onChange={setAsked} />
        <dl className="grid gap-3 sm:grid-cols-2 lg:grid-cols-3">
          <Figure name={t.jobs} value={String(data.jobs)} hint={`${data.closed} ${t.closed}`} />
          <Figure name={t.proven} value={String(data.proven)} />
          <Figure name={t.minutes} value={data.clockMinutes === null ? "–" : data.clockMinutes.toFixed(0)} hint={t.minutesHint(data.clocked)} />
          <Figure name={t.saved} value={String(data.partsSaved)} hint={t.savedHint} />
          {data.moneySaved > 0 && (
            <Figure
              name={t.money}
              value={`${data.moneySaved.toFixed(0)} ${shop?.settings.currency ?? ""}`.trim()}
              hint={t.moneyHint(data.partsSaved, data.partMinutes, shop?.settings.moneyPerHour ?? 0, shop?.settings.currency ?? "")}
            />
          )}
          <Figure name={t.comebacks} value={String(data.comebacks)} hint={t.comebacksHint} />
        </dl>
        {data.months.length > 0 && (
          <Block title={t.months}>
            <Suspense fallback={<p className="m-0 h-64 text-soft">{messages.states.loading}</p>}>
              <FigureCharts months={data.months} />
            </Suspense>
          </Block>
        )}
        <div className="grid gap-5 md:grid-cols-2">
          <Block title={t.faults}>
            {data.faults.length === 0 && <p className="m-0 text-soft">{t.none}</p>}
            <ul className="m-0 list-none p-0">
              {data.faults.map(({ vehicle, unit, circuit, count }) => (
                <li key={`${vehicle} ${unit} ${circuit}`} className="flex justify-between gap-3 border-t border-line py-2 first:border-t-0">
                  <span>
                    {unitTitle(unit, "Sensor")}
                    <span className="block text-sm text-soft">{[circuit, vehicle].filter((text) => text !== "").join(", ")}</span>
                  </span>
                  <span className="readout">{t.times(count)}</span>
                </li>
              ))}
            </ul>
          </Block>
          <div className="grid content-start gap-5">
            <Block title={t.outcomes}>
              {Object.keys(data.outcomes).length === 0 && <p className="m-0 text-soft">{t.none}</p>}
              <ul className="m-0 list-none p-0">
                {OUTCOMES.filter((outcome) => data.outcomes[outcome] !== undefined).map((outcome) => (
                  <li key={outcome} className="flex justify-between border-t border-line py-2 first:border-t-0">
                    <span>{messages.check.outcome[outcome]}</span> <span className="readout">{data.outcomes[outcome]}</span>
                  </li>
                ))}
              </ul>
            </Block>
            <Block title={t.overrides}>
              {data.overrides.length === 0 && <p className="m-0 text-soft">{t.none}</p>}
              <ul className="m-0 list-none p-0">
                {data.overrides.map(({ job, number, unit, probability, right }) => (
                  <li key={`${job} ${unit}`} className="border-t border-line py-2 first:border-t-0">
                    <Link to={`/jobs/${job}`} className="font-bold text-ink">
                      {t.job(number)}
                    </Link>{" "}
                    {unitTitle(unit, "Sensor")}
                    <span className="block text-sm text-soft">
                      {probability === null ? "" : `${t.odds(formatPercent(probability))}, `}
                      {rightWord(right)}
                    </span>
                  </li>
                ))}
              </ul>
            </Block>
          </div>
        </div>
      </main>
    </>
  );
}
