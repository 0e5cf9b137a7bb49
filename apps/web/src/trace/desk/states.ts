import type { Setup } from "@fox-lamp/language";
import { messages } from "../../messages";

const t = messages.traces;

export type Key = NonNullable<Setup["key"]>;
export type Stimulus = keyof typeof t.stimuli;

/** States of the car and what is done with it while a scope stores, as they can be chosen. */
export const KEYS = Object.entries(t.keys) as [Key, string][];
export const STIMULI = Object.entries(t.stimuli) as [Stimulus, string][];

/** What was done in a state, as it can be chosen. */
export function stimulusOf(setup: Setup | undefined): Stimulus {
  const kind = setup?.stimulus?.kind;
  return kind !== undefined && kind in t.stimuli ? (kind as Stimulus) : "none";
}
