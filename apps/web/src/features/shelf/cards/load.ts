import { type Card, readCard } from "./cards";

const FILES = import.meta.glob<string>("../../../../cards/*.md", { query: "?raw", import: "default", eager: true });

/** Every card of the house, by its title. */
export const CARDS: readonly Card[] = Object.entries(FILES)
  .map(([path, text]) => readCard(path.replace(/^.*\/|\.md$/gu, ""), text))
  .sort((a, b) => a.title.localeCompare(b.title, "en", { numeric: true }));
