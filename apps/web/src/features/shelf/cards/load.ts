import { type Card, readCard } from "./cards";

const FILES = import.meta.glob<string>("../../../../cards/*.md", { query: "?raw", import: "default", eager: true });

/** Techniques in the order of their numbers, everything else by its title. */
const placeOf = ({ id, group, title }: Card): string => (group === "technique" ? id : title);

/** Every card of the house. */
export const CARDS: readonly Card[] = Object.entries(FILES)
  .map(([path, text]) => readCard(path.replace(/^.*\/|\.md$/gu, ""), text))
  .sort((a, b) => placeOf(a).localeCompare(placeOf(b), "en", { numeric: true }));
