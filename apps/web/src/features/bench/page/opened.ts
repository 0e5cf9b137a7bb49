/** What is open over the bench; null where nothing is. */
export type Opened = "others" | "skip" | "own" | "palette" | "callout" | "watch" | null;
