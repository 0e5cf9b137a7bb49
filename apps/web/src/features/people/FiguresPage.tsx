import { formatPercent } from "@fox-lamp/core";
import { OUTCOMES, unitTitle } from "@fox-lamp/language";
import { Link } from "react-router";
import { reasonOf, useFiguresQuery, useShopQuery } from "../../app/api";
import { DeadEnd } from "../../app/DeadEnd";
import { PageHead } from "../../app/shell";
import { messages } from "../../messages";
import { Block } from "../../ui/form";
import { PlainPage } from "../../ui/states";

const t = messages.figures;

function Figure({ name, value, hint }: { name: string; value: string; hint?: string }) {
  return (
    <div className="rounded-xl border border-line bg-panel px-4 py-3">
      <dt className="text-sm text-soft">{name}</dt>
      <dd className="readout m-0 text-3xl font-bold">{value}</dd>
      {hint && <dd className="m-0 text-sm text-soft">{hint}</dd>}
    </div>
  );
}

/** How the shop does: time to a verdict, what was not replaced, what came back. */
export function FiguresPage() {
  const { data, error, refetch } = useFiguresQuery(undefined, { refetchOnMountOrArgChange: true });
  const { data: shop } = useShopQuery();
  if (error) return <DeadEnd retry={() => void refetch()}>{reasonOf(error) ?? messages.states.failed}</DeadEnd>;
  if (!data) return <PlainPage>{messages.states.loading}</PlainPage>;
  const rightWord = (right: boolean | null): string => (right === null ? t.overrideOpen : right ? t.overrideRight : t.overrideWrong);
  return (
    <>
      <PageHead>
        <span className="text-soft">{shop?.name}</span>
      </PageHead>
      <main id="content" className="mx-auto w-full max-w-5xl flex-1 space-y-5 px-4 py-6">
        <h1 className="text-2xl font-bold">{t.title}</h1>
        <dl className="grid gap-3 sm:grid-cols-2 lg:grid-cols-3">
          <Figure name={t.jobs} value={String(data.jobs)} hint={`${data.closed} ${t.closed}`} />
          <Figure name={t.proven} value={String(data.proven)} />
          <Figure name={t.minutes} value={data.meanMinutes === null ? "–" : data.meanMinutes.toFixed(1)} />
          <Figure name={t.saved} value={String(data.partsSaved)} hint={t.savedHint} />
          {data.moneySaved > 0 && <Figure name={t.money} value={`${data.moneySaved.toFixed(0)} ${shop?.settings.currency ?? ""}`.trim()} hint={t.moneyHint} />}
          <Figure name={t.comebacks} value={String(data.comebacks)} hint={t.comebacksHint} />
        </dl>
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
