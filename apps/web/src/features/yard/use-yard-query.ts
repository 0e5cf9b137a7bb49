import { STAGES, type Stage, WAITS, YARD_SORTS } from "@fox-lamp/language";
import { useSearchParams } from "react-router";

/** What the yard is asked, as it stands in its address: whoever sends the address sends the view. */
export interface YardView {
  readonly q: string;
  readonly mine: boolean;
  readonly stage: Stage | "";
  readonly person: string;
  readonly waiting: (typeof WAITS)[number] | "any" | "";
  readonly code: string;
  readonly idleDays: string;
  readonly sort: (typeof YARD_SORTS)[number];
  readonly view: "stages" | "days";
}

export const IDLE_DAYS = ["1", "3", "7", "30"] as const;

const among = <T extends string>(values: readonly T[], text: string | null, otherwise: T | ""): T | "" => values.find((value) => value === text) ?? otherwise;

/** A view from an address; what cannot be is left out. */
export function viewIn(query: URLSearchParams): YardView {
  return {
    q: query.get("q") ?? "",
    mine: query.get("mine") === "yes",
    stage: among(STAGES, query.get("stage"), ""),
    person: query.get("person") ?? "",
    waiting: among([...WAITS, "any"] as const, query.get("waiting"), ""),
    code: query.get("code") ?? "",
    idleDays: among(IDLE_DAYS, query.get("idle"), ""),
    sort: among(YARD_SORTS, query.get("sort"), "touched") || "touched",
    view: query.get("view") === "days" ? "days" : "stages",
  };
}

/** The address of a view: what is as usual does not stand in it. */
export function addressOf({ q, mine, stage, person, waiting, code, idleDays, sort, view }: YardView): URLSearchParams {
  const said = {
    q,
    stage,
    person,
    waiting,
    code,
    idle: idleDays,
    mine: mine ? "yes" : "",
    sort: sort === "touched" ? "" : sort,
    view: view === "days" ? view : "",
  };
  return new URLSearchParams(Object.entries(said).filter(([, value]) => value !== ""));
}

/** What the server is asked for a view. @param q the words, once nobody types any more */
export function askedOf({ mine, person, waiting, code, idleDays, sort }: YardView, q: string): Record<string, string> {
  const said = { q, person, waiting, code: code.trim(), idleDays, mine: mine ? "yes" : "no", sort };
  return Object.fromEntries(Object.entries(said).filter(([, value]) => value !== ""));
}

/** How many filters are set, besides words and order. */
export function filtersOf({ person, waiting, code, idleDays, stage, mine }: YardView): number {
  return [person, waiting, code, idleDays, stage].filter((value) => value !== "").length + (mine ? 1 : 0);
}

/** The yard's view in the address, and how it is changed. */
export function useYardView(): readonly [YardView, (part: Partial<YardView>) => void] {
  const [query, setQuery] = useSearchParams();
  const view = viewIn(query);
  return [view, (part) => setQuery(addressOf({ ...viewIn(query), ...part }), { replace: true })];
}
