import { skipToken } from "@reduxjs/toolkit/query";
import { useMemo, useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { useJobQuery } from "../../../app/api";
import { DeadEnd } from "../../../app/DeadEnd";
import { messages } from "../../../messages";
import { TextField } from "../../../ui/form";
import { ShelfHead } from "../ShelfHead";
import { CardBody } from "./CardBody";
import { CARD_GROUPS, type Card, findCards } from "./cards";
import { CARDS } from "./load";

const t = messages.cards;

/** The cards that were found, by group, or in the order of how well they fit. */
function CardList({ found, searching, here, search }: { found: readonly Card[]; searching: boolean; here: string | undefined; search: string }) {
  const groups = searching
    ? [{ name: null, cards: found }]
    : CARD_GROUPS.map((group) => ({ name: group, cards: found.filter((card) => card.group === group) }));
  return (
    <>
      {groups.map(({ name, cards }) => (
        <section key={name ?? ""} aria-label={name === null ? t.found : t.groups[name]}>
          {name !== null && <h2 className="mb-1 mt-4 text-sm font-bold text-soft">{t.groups[name]}</h2>}
          <ul className="m-0 list-none p-0">
            {cards.map(({ id, title }) => (
              <li key={id}>
                <Link
                  to={`/cards/${id}${search}`}
                  aria-current={id === here ? "page" : undefined}
                  className={`flex min-h-11 items-center rounded-lg border px-3 py-1.5 text-ink no-underline ${id === here ? "border-lamp font-bold" : "border-transparent hover:border-line"}`}
                >
                  {title}
                </Link>
              </li>
            ))}
          </ul>
        </section>
      ))}
    </>
  );
}

/** What to know at the step where it matters: techniques, families, instruments, schools; each with figures that are computed. */
export function CardsPage() {
  const { id } = useParams();
  const [query] = useSearchParams();
  const [text, setText] = useState("");
  const jobId = query.get("job");
  const { data: job } = useJobQuery(jobId ?? skipToken);
  const circuit = job?.circuits.find((one) => one.id === query.get("circuit")) ?? null;
  const found = useMemo(() => findCards(CARDS, text), [text]);
  const card = id === undefined ? undefined : CARDS.find((one) => one.id === id);
  const search = query.size === 0 ? "" : `?${query}`;
  if (id !== undefined && card === undefined) return <DeadEnd>{t.none}</DeadEnd>;
  return (
    <>
      <ShelfHead search={search}>
        {jobId !== null && (
          <Link to={`/jobs/${jobId}/bench`} className="flex min-h-11 shrink-0 items-center px-2.5">
            {messages.shelf.back}
          </Link>
        )}
      </ShelfHead>
      <main id="content" className="mx-auto grid w-full max-w-6xl flex-1 content-start gap-x-8 gap-y-3 px-4 py-5 lg:grid-cols-[18rem_minmax(0,1fr)] lg:px-6">
        <nav aria-label={t.title} className={`min-w-0 ${card === undefined ? "" : "max-lg:order-2"}`}>
          {card === undefined ? <h1 className="m-0 text-2xl font-bold">{t.title}</h1> : <p className="m-0 text-2xl font-bold">{t.title}</p>}
          <TextField label={t.find} type="search" value={text} onChange={(event) => setText(event.target.value)} />
          {found.length === 0 && <p className="m-0 mt-2 text-soft">{t.nothing(text)}</p>}
          <div className="lg:max-h-[calc(100dvh-12rem)] lg:overflow-y-auto">
            <CardList found={found} searching={text.trim() !== ""} here={id} search={search} />
          </div>
        </nav>
        {card === undefined ? (
          <p className="m-0 max-w-2xl text-soft max-lg:hidden lg:mt-10">{t.lead}</p>
        ) : (
          <article aria-labelledby="card" className="min-w-0">
            <p className="m-0 text-sm text-soft">{t.groups[card.group]}</p>
            <h1 id="card" className="m-0 text-2xl font-bold">
              {card.title}
            </h1>
            <CardBody key={card.id} card={card} circuit={circuit} search={search} />
          </article>
        )}
      </main>
    </>
  );
}
