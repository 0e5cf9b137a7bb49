/** A name in the box of a drawing: two lines, with the percentage or word for its standing behind the second, or at the end of the first. */
export interface NameLines {
  readonly first: string;
  readonly second: string;
  /** Where the second line has no room for the standing: at the right end of the first. */
  readonly beside: string;
}

/** Letters that fit a line: bold ones above, light ones below. */
const FIRST_LETTERS = 14;
const SECOND_LETTERS = 17;

/**
 * Breaks a name so that no line runs out of its box; what is longer in two words than two lines hold stays long.
 * @param narrow a box of a phone, where the standing takes the place of all but the first word
 */
export function nameLines(title: string, state: string, narrow = false): NameLines {
  const [word = "", ...rest] = title.split(" ");
  if (narrow) return { first: word, second: state === "" ? rest.join(" ") : state, beside: "" };
  const usual = `${rest.join(" ")} ${state}`.trim();
  if (usual.length <= SECOND_LETTERS) return { first: word, second: usual, beside: "" };
  let first = word;
  while (rest.length > 1 && `${first} ${rest[0]} ${state}`.trim().length <= FIRST_LETTERS) first = `${first} ${rest.shift()}`;
  return { first, second: rest.join(" "), beside: state };
}
