import type { SceneVolts } from "@fox-lamp/core";
import type { Expect, NextTest } from "@fox-lamp/language";

/** A test chosen freely, with what the drawing shows for it. */
export interface OwnScene {
  readonly test: NextTest;
  readonly engineering: Expect | null;
  readonly volts: SceneVolts;
}

/** What a book says of the reading at hand, as typed. */
export interface Book {
  readonly text: string;
  readonly source: string;
  /** The shelf's own limit is left out of the reading. */
  readonly withoutShelf?: boolean;
}
export const NO_BOOK: Book = { text: "", source: "" };

/** What is at hand on the bench, besides what the record says: nothing of it is entered yet. */
export interface Desk {
  /** What stands in the entry field, and the test it was typed for, whatever the advice thinks of meanwhile. */
  readonly text: string;
  readonly typedFor: NextTest | null;
  /** The test chosen among those offered. */
  readonly chosen: string | null;
  readonly own: OwnScene | null;
  readonly book: Book;
  /** The unit somebody wants to know about. */
  readonly selected: string | null;
  /** The circuit whose tests come first. */
  readonly focus: string | null;
  /** Whether the complaint shows now; null where nobody said. */
  readonly symptom: boolean | null;
}

export const EMPTY_DESK: Desk = { text: "", typedFor: null, chosen: null, own: null, book: NO_BOOK, selected: null, focus: null, symptom: null };

export type DeskAction =
  | { readonly do: "type"; readonly text: string; readonly test: NextTest | null }
  | { readonly do: "taken" }
  | { readonly do: "skipped" }
  | { readonly do: "choose"; readonly test: string }
  | { readonly do: "own"; readonly scene: OwnScene | null }
  | { readonly do: "select"; readonly unit: string | null }
  | { readonly do: "show"; readonly circuit: string }
  | { readonly do: "book"; readonly book: Book }
  | { readonly do: "symptom"; readonly value: boolean | null };

/** What is left at hand once a test is done with. */
const done = (desk: Desk): Desk => ({ ...desk, text: "", typedFor: null, chosen: null, own: null, book: NO_BOOK, selected: null });

/** What each act makes of the desk. */
export function deskAfter(desk: Desk, action: DeskAction): Desk {
  switch (action.do) {
    case "type":
      return { ...desk, text: action.text, typedFor: action.text === "" ? null : (desk.typedFor ?? action.test) };
    case "taken":
      return { ...done(desk), symptom: null };
    case "skipped":
      return done(desk);
    case "choose":
      return { ...desk, chosen: action.test, own: null, book: NO_BOOK, text: "", typedFor: null };
    case "own":
      return { ...desk, own: action.scene, book: NO_BOOK, text: "", typedFor: null };
    case "select":
      return { ...desk, selected: action.unit === desk.selected ? null : action.unit };
    case "show":
      return { ...done(desk), focus: action.circuit };
    case "book":
      return { ...desk, book: action.book };
    case "symptom":
      return { ...desk, symptom: action.value };
  }
}

/** The test at hand: one's own before all, then the one something is typed for, then the chosen one, then what settles most. */
export function testAtHand({ own, typedFor, chosen }: Desk, tests: readonly NextTest[]): NextTest | null {
  return own?.test ?? typedFor ?? tests.find(({ test }) => test === chosen) ?? tests[0] ?? null;
}

const keyOf = (job: string): string => `fox-lamp/desk/${job}`;

/** Keeps what is half typed, so that a reload loses nothing of it; only in this tab. */
export function keepDesk(job: string, { text, typedFor, own }: Desk): void {
  if (text === "") sessionStorage.removeItem(keyOf(job));
  else sessionStorage.setItem(keyOf(job), JSON.stringify({ text, typedFor, own }));
}

/** What was half typed before a reload. */
export function keptDesk(job: string): Desk {
  try {
    const kept = JSON.parse(sessionStorage.getItem(keyOf(job)) ?? "{}") as Partial<Desk>;
    if (typeof kept.text !== "string" || kept.typedFor == null) return EMPTY_DESK;
    return { ...EMPTY_DESK, text: kept.text, typedFor: kept.typedFor, own: kept.own ?? null };
  } catch {
    return EMPTY_DESK;
  }
}
