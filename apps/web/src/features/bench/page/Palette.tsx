import { type CircuitView, formatPercent } from "@fox-lamp/core";
import { type NextTest, STAGES } from "@fox-lamp/language";
import { Command } from "cmdk";
import { Dialog } from "radix-ui";
import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { useFindJobsQuery } from "../../../app/api";
import { testTitle } from "../../../circuit/wording";
import { messages } from "../../../messages";
import { minutesText } from "../../../ui/display";
import { stagePath } from "../../../ui/StageRail";
import { vehicleName } from "../../../ui/vehicle";
import { pointsOf } from "../own-test/draft";

const p = messages.palette;

/** Something the bench can do now. */
export interface Verb {
  readonly key: string | null;
  readonly name: string;
  readonly run: () => void;
}

interface Props {
  readonly job: string;
  readonly vehicle: string;
  readonly open: boolean;
  readonly onOpen: (open: boolean) => void;
  readonly verbs: readonly Verb[];
  readonly tests: readonly Pick<NextTest, "test" | "title" | "circuit" | "minutes">[];
  readonly circuit: CircuitView | null;
  readonly circuits: readonly CircuitView[];
  readonly onTest: (test: string) => void;
  readonly suspects: readonly { readonly unit: string; readonly title: string; readonly probability: number }[];
  readonly onSuspect: (unit: string) => void;
  /** A point of the circuit on which the red lead is put. */
  readonly onPlace: (point: string) => void;
}

/** One line of the palette: what it is called, what stands at its end, other words it is found by. */
interface Item {
  readonly id: string;
  readonly name: string;
  readonly end: string;
  readonly words?: readonly string[];
  readonly run: () => void;
}

const ITEM =
  "flex cursor-pointer items-center justify-between gap-4 rounded-lg px-3 py-2.5 data-[selected=true]:bg-well data-[selected=true]:outline data-[selected=true]:outline-lamp";
const GROUP = "[&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:py-1.5 [&_[cmdk-group-heading]]:text-sm [&_[cmdk-group-heading]]:text-soft";
/** The server is asked once nobody has typed for this long, milliseconds. */
const ASK_AFTER_MS = 250;
const ASK_FROM_LETTERS = 2;
const MOST_JOBS = 8;

/** Every word that was typed has to stand in a line, in any order. */
function allWords(line: string, typed: string, also: string[] = []): number {
  const said = [line, ...also].join(" ").toLowerCase();
  return typed
    .toLowerCase()
    .split(/\s+/u)
    .every((word) => said.includes(word))
    ? 1
    : 0;
}

function Group({ heading, items, onDone }: { heading: string; items: readonly Item[]; onDone: () => void }) {
  if (items.length === 0) return null;
  return (
    <Command.Group heading={heading} className={GROUP}>
      {items.map(({ id, name, end, words = [], run }) => (
        <Command.Item
          key={id}
          value={`${name} ${id}`}
          keywords={[...words]}
          onSelect={() => {
            onDone();
            run();
          }}
          className={ITEM}
        >
          {name}
          {end !== "" && <span className="readout whitespace-nowrap text-sm text-soft">{end}</span>}
        </Command.Item>
      ))}
    </Command.Group>
  );
}

/** Jobs of the shop in which what is typed occurs: asked of the server when the typing rests. */
function useJobsLike(text: string): Omit<Item, "run">[] {
  const [asked, setAsked] = useState("");
  useEffect(() => {
    const timer = setTimeout(() => setAsked(text.trim()), ASK_AFTER_MS);
    return () => clearTimeout(timer);
  }, [text]);
  const { data = [] } = useFindJobsQuery(asked, { skip: asked.length < ASK_FROM_LETTERS });
  if (asked.length < ASK_FROM_LETTERS) return [];
  // The server found them by words that need not stand in their line: what was typed finds them here too.
  return data
    .slice(0, MOST_JOBS)
    .map(({ id, number, vehicle, complaint }) => ({ id, name: `${vehicleName(vehicle)}: ${complaint}`, end: String(number), words: [text, asked] }));
}

/** Everything the bench can do, places to put a lead, pages and other jobs, by typing a few letters. */
export function Palette({ job, vehicle, open, onOpen, verbs, tests, circuit, circuits, onTest, suspects, onSuspect, onPlace }: Props) {
  const navigate = useNavigate();
  const [text, setText] = useState("");
  const jobs = useJobsLike(text);
  const go = (path: string) => () => void navigate(path);
  const groups: readonly (readonly [string, readonly Item[]])[] = [
    [p.verbs, verbs.map(({ key, name, run }) => ({ id: name, name, end: key ?? "", run }))],
    [p.tests, tests.map((test) => ({ id: test.test, name: testTitle(test, circuits), end: minutesText(test.minutes), run: () => onTest(test.test) }))],
    [p.suspects, suspects.map(({ unit, title, probability }) => ({ id: unit, name: title, end: formatPercent(probability), run: () => onSuspect(unit) }))],
    [
      p.places,
      circuit === null
        ? []
        : pointsOf(circuit, circuits).map(({ value, label, group }) => ({
            id: value,
            name: label,
            end: group === circuit.title ? "" : group,
            words: [group],
            run: () => onPlace(value),
          })),
    ],
    [
      p.pages,
      [
        ...STAGES.filter((stage) => stage !== "bench").map((stage) => ({ id: stage, name: messages.stages[stage], end: "", run: go(stagePath(job, stage)) })),
        { id: "sheet", name: messages.pages.sheet, end: "", run: go(`/jobs/${job}/sheet`) },
        { id: "traces", name: messages.pages.traces, end: "", run: go(`/jobs/${job}/traces`) },
        { id: "proof", name: messages.pages.proof, end: "", run: go(`/jobs/${job}/proof`) },
        { id: "shelf", name: messages.pages.shelf, end: "", run: go(`/shelf?vehicle=${vehicle}`) },
        { id: "cards", name: messages.pages.cards, end: "", run: go(`/cards?job=${job}`) },
        { id: "calculators", name: messages.pages.calculators, end: "", run: go(`/calculators?job=${job}`) },
        { id: "yard", name: messages.pages.yard, end: "", run: go("/") },
        { id: "new", name: messages.pages.newJob, end: "", run: go("/jobs/new") },
      ],
    ],
    [p.jobs, jobs.filter(({ id }) => id !== job).map((found) => ({ ...found, run: go(`/jobs/${found.id}`) }))],
  ];
  return (
    <Dialog.Root open={open} onOpenChange={onOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-black/60" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed left-1/2 top-[12vh] z-40 w-[min(34rem,calc(100vw-2rem))] -translate-x-1/2 rounded-2xl border border-line bg-panel p-2 shadow-2xl"
        >
          <Dialog.Title className="sr-only">{p.title}</Dialog.Title>
          <Command label={p.title} filter={allWords}>
            <Command.Input
              value={text}
              onValueChange={setText}
              placeholder={p.placeholder}
              className="h-12 w-full rounded-lg border border-edge bg-well px-3 text-lg text-ink"
            />
            <Command.List className="mt-2 max-h-[60vh] overflow-y-auto">
              <Command.Empty className="px-3 py-4 text-soft">{p.nothing}</Command.Empty>
              {groups.map(([heading, items]) => (
                <Group key={heading} heading={heading} items={items} onDone={() => onOpen(false)} />
              ))}
            </Command.List>
          </Command>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
