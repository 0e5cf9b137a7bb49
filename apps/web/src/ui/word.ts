/** What can be done about it, from the word itself. */
export interface Remedy {
  readonly label: string;
  readonly run: () => void;
}

/** A short word on what just happened. */
export interface Word {
  readonly kind: "success" | "error";
  readonly text: string;
  /** Milliseconds it stays. */
  readonly duration: number;
  readonly remedy: Remedy | null;
}
