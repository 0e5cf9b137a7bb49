/** What is open over the bench; null where nothing is. */
export type Opened = "others" | "skip" | "own" | "palette" | "callout" | "watch" | "traces" | null;

/** What is open after something was opened or closed: a menu that closes behind what it opened does not close that. */
export function openedAfter(now: Opened, what: Exclude<Opened, null>, open: boolean): Opened {
  if (open) return what;
  return now === what ? null : now;
}
