import { familyNamed } from "@fox-lamp/core";
import { unitTitle } from "@fox-lamp/language";
import { messages } from "../../../messages";
import { minutesText } from "../../../ui/display";
import { Chip } from "../../../ui/form";
import type { Work } from "../shared/JobFrame";

const t = messages.found;
const MOST_SHOWN = 5;

type Found = Work["job"]["found"][number];

/** "3 times on this model, 5 in this shop". */
function timesText({ model, shop }: Found): string {
  if (model === 0) return t.inShop(shop);
  return shop > model ? `${t.onModel(model)}, ${t.inShop(shop)}` : t.onModel(model);
}

/** What closed and proven jobs found on circuits of the kinds at hand: a prior that can be seen, and left out of account. */
export function FoundBefore({ job, state, enter, shop }: Work) {
  const families = new Set(job.circuits.map(({ family }) => family));
  const rows = job.found.filter(({ family }) => families.has(family));
  if (rows.length === 0) return null;
  const off = shop?.settings.policy.learnt === "off";
  const counts = !off && state.facts.learnt !== "off";
  const set = (on: boolean): void => {
    const { learnt: _learnt, ...facts } = state.facts;
    enter({ kind: "conditions", body: { ...state.conditions, facts: on ? facts : { ...facts, learnt: "off" } } });
  };
  return (
    <section aria-label={t.title} className="rounded-xl border border-line bg-panel px-4 py-3">
      <p className="m-0 text-sm font-bold text-soft">{t.title}</p>
      <ul className="m-0 mt-1 list-none p-0">
        {rows.slice(0, MOST_SHOWN).map((one) => {
          const title = unitTitle(`x/${one.unit}`, familyNamed(one.family)?.part ?? "");
          return (
            <li key={`${one.family} ${one.unit}`} className="border-b border-line py-1.5 last:border-0">
              <span className="font-bold">{families.size > 1 ? `${title}, ${familyNamed(one.family)?.title ?? ""}` : title}</span>
              <span className="block text-sm text-soft">
                {timesText(one)}
                {one.minutes === null ? "" : `, ${t.took(minutesText(one.minutes))}`}
              </span>
            </li>
          );
        })}
      </ul>
      <p className="mb-2 mt-1 text-sm text-soft">{off ? t.offHere : t.lead}</p>
      {!off && (
        <Chip on={counts} onChange={set}>
          {t.counts}
        </Chip>
      )}
    </section>
  );
}
