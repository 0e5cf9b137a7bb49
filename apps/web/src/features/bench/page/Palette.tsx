import { type CircuitView, formatPercent } from "@fox-lamp/core";
import type { NextTest } from "@fox-lamp/language";
import { Command } from "cmdk";
import { Dialog } from "radix-ui";
import { testTitle } from "../../../circuit/wording";
import { messages } from "../../../messages";
import { minutesText } from "../../../ui/display";

const p = messages.palette;

/** Something the bench can do now. */
export interface Verb {
  readonly key: string | null;
  readonly name: string;
  readonly run: () => void;
}

interface Props {
  readonly open: boolean;
  readonly onOpen: (open: boolean) => void;
  readonly verbs: readonly Verb[];
  readonly tests: readonly Pick<NextTest, "test" | "title" | "circuit" | "minutes">[];
  readonly circuits: readonly CircuitView[];
  readonly onTest: (test: string) => void;
  readonly suspects: readonly { readonly unit: string; readonly title: string; readonly probability: number }[];
  readonly onSuspect: (unit: string) => void;
}

const ITEM =
  "flex cursor-pointer items-center justify-between gap-4 rounded-lg px-3 py-2.5 data-[selected=true]:bg-well data-[selected=true]:outline data-[selected=true]:outline-lamp";
const GROUP = "[&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:py-1.5 [&_[cmdk-group-heading]]:text-sm [&_[cmdk-group-heading]]:text-soft";

/** Everything the bench can do, by typing a few letters. */
export function Palette({ open, onOpen, verbs, tests, circuits, onTest, suspects, onSuspect }: Props) {
  const then = (act: () => void) => (): void => {
    onOpen(false);
    act();
  };
  return (
    <Dialog.Root open={open} onOpenChange={onOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-black/60" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed left-1/2 top-[12vh] z-40 w-[min(34rem,calc(100vw-2rem))] -translate-x-1/2 rounded-2xl border border-line bg-panel p-2 shadow-2xl"
        >
          <Dialog.Title className="sr-only">{p.title}</Dialog.Title>
          <Command label={p.title}>
            <Command.Input placeholder={p.placeholder} className="h-12 w-full rounded-lg border border-line bg-well px-3 text-lg text-ink" />
            <Command.List className="mt-2 max-h-[60vh] overflow-y-auto">
              <Command.Empty className="px-3 py-4 text-soft">{p.nothing}</Command.Empty>
              <Command.Group heading={p.verbs} className={GROUP}>
                {verbs.map(({ key, name, run }) => (
                  <Command.Item key={name} value={name} onSelect={then(run)} className={ITEM}>
                    {name}
                    {key !== null && <kbd className="readout rounded border border-line px-1.5">{key}</kbd>}
                  </Command.Item>
                ))}
              </Command.Group>
              <Command.Group heading={p.tests} className={GROUP}>
                {tests.map((test) => (
                  <Command.Item key={test.test} value={`${testTitle(test, circuits)} ${test.test}`} onSelect={then(() => onTest(test.test))} className={ITEM}>
                    {testTitle(test, circuits)} <span className="readout whitespace-nowrap text-sm text-soft">{minutesText(test.minutes)}</span>
                  </Command.Item>
                ))}
              </Command.Group>
              <Command.Group heading={p.suspects} className={GROUP}>
                {suspects.map(({ unit, title, probability }) => (
                  <Command.Item key={unit} value={`${title} ${unit}`} onSelect={then(() => onSuspect(unit))} className={ITEM}>
                    {title} <span className="readout text-sm text-soft">{formatPercent(probability)}</span>
                  </Command.Item>
                ))}
              </Command.Group>
            </Command.List>
          </Command>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
