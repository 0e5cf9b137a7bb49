import { CALCULATORS } from "@fox-lamp/core";
import { useMemo, useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { useEnter } from "../../../app/use-job";
import { messages } from "../../../messages";
import { TextField } from "../../../ui/form";
import { toast } from "../../../ui/toast";
import { ShelfHead } from "../ShelfHead";
import { CalculatorForm } from "./CalculatorForm";

const t = messages.shelf;

/** Numbers a calculator was opened with, as they stand in the address, in base units. */
function numbersIn(search: URLSearchParams): Record<string, number> {
  return Object.fromEntries(
    [...search].flatMap(([name, text]) => (name !== "job" && text !== "" && Number.isFinite(Number(text)) ? [[name, Number(text)]] : [])),
  );
}

/** The trade's arithmetic as live tools: found by name, opened with the numbers of a reading, kept with its job. */
export function CalculatorsPage() {
  const { id } = useParams();
  const [search] = useSearchParams();
  const navigate = useNavigate();
  const [text, setText] = useState("");
  const job = search.get("job");
  const enter = useEnter(job ?? "");
  const given = useMemo(() => numbersIn(search), [search]);
  const calculator = CALCULATORS.find((one) => one.id === id) ?? CALCULATORS[0];
  const wanted = text.trim().toLowerCase();
  const listed = CALCULATORS.filter(({ title, about }) => wanted === "" || `${title} ${about}`.toLowerCase().includes(wanted));
  const beside = job === null ? "" : `?job=${job}`;
  const note = (result: string): void => {
    if (enter({ kind: "note", body: { text: result } }).length > 0) toast.success(t.noted);
  };
  const use = (as: "read" | "expect", result: string): void => {
    const sent = new URLSearchParams({ [as]: result, ...(as === "expect" ? { from: t.sentFrom(calculator?.title ?? "") } : {}) });
    void navigate(`/jobs/${job}/bench?${sent}`);
  };
  if (calculator === undefined) return null;
  return (
    <>
      <ShelfHead search={beside}>
        {job !== null && (
          <Link to={`/jobs/${job}/bench`} className="flex min-h-11 shrink-0 items-center px-2.5">
            {t.back}
          </Link>
        )}
      </ShelfHead>
      <main id="content" className="mx-auto w-full max-w-6xl flex-1 px-4 py-6 lg:px-6">
        <h1 className="m-0 text-2xl font-bold">{t.calculators}</h1>
        <p className="m-0 mb-4 text-soft">{t.lead}</p>
        <div className="grid gap-6 lg:grid-cols-[15rem_minmax(0,1fr)]">
          <nav aria-label={t.list} className="min-w-0">
            <TextField label={t.find} type="search" value={text} onChange={(event) => setText(event.target.value)} />
            {listed.length === 0 && <p className="m-0 mt-2 text-soft">{t.noneFound(text)}</p>}
            <ul className="m-0 mt-2 flex list-none flex-wrap gap-1 p-0 max-lg:max-h-40 max-lg:overflow-y-auto lg:block">
              {listed.map(({ id: own, title }) => (
                <li key={own} className="shrink-0">
                  <Link
                    to={`/calculators/${own}${beside}`}
                    aria-current={own === calculator.id ? "page" : undefined}
                    className={`flex min-h-11 items-center rounded-lg border px-3 text-ink no-underline ${own === calculator.id ? "border-lamp font-bold" : "border-transparent hover:border-line"}`}
                  >
                    {title}
                  </Link>
                </li>
              ))}
            </ul>
          </nav>
          <CalculatorForm
            key={`${calculator.id} ${search}`}
            calculator={calculator}
            given={calculator.id === id ? given : {}}
            onNote={job === null ? undefined : note}
            onUse={job === null ? undefined : use}
          />
        </div>
      </main>
    </>
  );
}
