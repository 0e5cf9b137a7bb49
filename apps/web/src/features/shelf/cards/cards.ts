/** The groups cards stand in, in the order they are listed. */
export const CARD_GROUPS = ["method", "technique", "family", "instrument", "school"] as const;
export type CardGroup = (typeof CARD_GROUPS)[number];

/** A short card: what it is about, and its text as Markdown with live blocks and computed figures. */
export interface Card {
  readonly id: string;
  readonly title: string;
  readonly group: CardGroup;
  /** Further words it is found by. */
  readonly words: string;
  readonly body: string;
}

/** A figure in a card's text and the calculation it comes from. */
export interface Figure {
  /** As it stands in the text: "3.59 kohm". */
  readonly text: string;
  readonly calculator: string;
  /** The field that is asked for, or the title of what else follows, in lower case. */
  readonly asked: string;
  readonly given: Readonly<Record<string, number>>;
}

/** A live block: one drawn for its subject, or a calculator with one number to be moved. */
export type LiveBlock =
  | { readonly kind: "drawn"; readonly name: string }
  | {
      readonly kind: "calculator";
      readonly calculator: string;
      readonly given: Readonly<Record<string, number>>;
      readonly move: { readonly field: string; readonly from: number; readonly to: number };
      readonly answer: string;
    };

const HEAD = /^---\n([\s\S]*?)\n---\n([\s\S]*)$/u;

/** Reads a card. @param id its file's name @throws Error saying what is wrong with the file */
export function readCard(id: string, text: string): Card {
  const [, head, body] = HEAD.exec(text) ?? [];
  if (head === undefined || body === undefined) throw new Error(`${id}: expected a head between two lines of ---`);
  const fields = Object.fromEntries(head.split("\n").map((line) => [line.slice(0, line.indexOf(":")), line.slice(line.indexOf(":") + 1).trim()]));
  const { title = "", group = "", words = "" } = fields as Record<string, string>;
  if (title === "") throw new Error(`${id}: has no title`);
  if (!CARD_GROUPS.includes(group as CardGroup)) throw new Error(`${id}: "${group}" is no group; expected one of ${CARD_GROUPS.join(", ")}`);
  return { id, title, group: group as CardGroup, words, body: body.trim() };
}

/** Numbers by name: "supply 5, pull 2200". */
function numbersIn(text: string): Readonly<Record<string, number>> {
  return Object.fromEntries(
    text
      .split(",")
      .map((part) => part.trim().split(/\s+/u))
      .filter(([name]) => name !== undefined && name !== "")
      .map(([name, value]) => [name ?? "", Number(value)]),
  );
}

/** The figure a piece of code in a card's text stands for: "2.66 V = divider signal: supply 5, pull 2200, sensor 2500"; null for other code. */
export function figureIn(code: string): Figure | null {
  const match = /^(.+?) = ([\w-]+) ([^:]+): (.+)$/u.exec(code);
  if (match === null) return null;
  const [, text = "", calculator = "", asked = "", given = ""] = match;
  return { text, calculator, asked: asked.trim(), given: numbersIn(given) };
}

/** All figures of a card. */
export function figuresOf({ body }: Card): Figure[] {
  return [...body.matchAll(/`([^`\n]+)`/gu)].flatMap(([, code = ""]) => {
    const figure = figureIn(code);
    return figure === null ? [] : [figure];
  });
}

/** What a live block says. @throws Error for one that says nothing known */
export function blockIn(text: string): LiveBlock {
  const lines = Object.fromEntries(text.split("\n").map((line) => [line.trim().split(/\s+/u)[0] ?? "", line.trim().replace(/^\S+\s*/u, "")]));
  const { block, calculator, given = "", move = "", answer } = lines as Record<string, string | undefined>;
  if (block !== undefined) return { kind: "drawn", name: block };
  const moved = /^(\S+) (-?[\d.]+) to (-?[\d.]+)$/u.exec(move ?? "");
  if (calculator === undefined || moved === null || answer === undefined) throw new Error(`"${text}" is no live block`);
  return {
    kind: "calculator",
    calculator,
    given: numbersIn(given ?? ""),
    move: { field: moved[1] ?? "", from: Number(moved[2]), to: Number(moved[3]) },
    answer,
  };
}

/** All live blocks of a card. */
export function blocksOf({ body }: Card): LiveBlock[] {
  return [...body.matchAll(/```live\n([\s\S]*?)\n```/gu)].map(([, text = ""]) => blockIn(text));
}

/** Cards that have every word somewhere: those that have them in the title first. */
export function findCards(cards: readonly Card[], text: string): Card[] {
  const words = text.toLowerCase().split(/\s+/u).filter(Boolean);
  const inside = (where: string): boolean => words.every((word) => where.toLowerCase().includes(word));
  const rank = ({ title, words: more }: Card): number => (inside(title) ? 0 : inside(`${title} ${more}`) ? 1 : 2);
  return cards.filter(({ title, words: more, body }) => inside(`${title} ${more} ${body}`)).sort((a, b) => rank(a) - rank(b));
}
