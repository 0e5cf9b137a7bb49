import { useSearchParams } from "react-router";

/** What is asked, as it stands in the address: some of the names with their words. */
export type Asked<Name extends string> = Partial<Record<Name, string>>;

/** What is asked, and how it is changed: an empty word is no longer asked, and the address holds it without a step back for every letter. */
export function useAsked<Name extends string>(names: readonly Name[]): readonly [Asked<Name>, (part: Asked<Name>) => void] {
  const [query, setQuery] = useSearchParams();
  const asked = Object.fromEntries(names.flatMap((name) => (query.get(name) ? [[name, query.get(name)]] : []))) as Asked<Name>;
  const change = (part: Asked<Name>): void => {
    const next = Object.entries({ ...asked, ...part }).filter(([, value]) => value !== undefined && value !== "");
    setQuery(new URLSearchParams(next as [string, string][]), { replace: true });
  };
  return [asked, change];
}
