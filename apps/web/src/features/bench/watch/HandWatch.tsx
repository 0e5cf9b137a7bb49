import { type CircuitView, formatWindow } from "@fox-lamp/core";
import type { Reading, Setup, Value } from "@fox-lamp/language";
import { placeWord } from "@fox-lamp/language";
import { useState } from "react";
import { valueTyped } from "../../../circuit/typed";
import { useWindows } from "../../../circuit/use-analysis";
import { messages } from "../../../messages";
import { Button, TextField } from "../../../ui/form";
import { Modal } from "../../../ui/Modal";
import { Symptom } from "../entry/Symptom";
import type { Bench } from "../use-bench";
import { linesOf, movedAt, movedPlaces } from "./lines";
import { PlaceChoice } from "./PlaceChoice";

const t = messages.watch;
/** Minutes for a first line, and for each further one read in the same moment. */
const FIRST_MINUTES = 1;
const FURTHER_MINUTES = 0.2;

/** What each line's text stands for; null where it is left empty. */
type Typed = ReturnType<typeof valueTyped> | null;

interface Props {
  readonly bench: Pick<Bench, "diagnosed" | "test" | "enterReadings">;
  readonly circuit: CircuitView;
  readonly onOpen: (open: boolean) => void;
}

/** The lines of a circuit as a technician's own instruments showed them in one moment, place by place: entered as one act. */
export function HandWatch({ bench, circuit, onOpen }: Props) {
  const [place, setPlace] = useState<string | null>(null);
  const [failed, setFailed] = useState<boolean | null>(true);
  const [texts, setTexts] = useState<readonly string[]>([]);
  const [tried, setTried] = useState(false);
  const [entered, setEntered] = useState<readonly string[]>([]);
  const truth = bench.test?.setup.truth;
  const base: Setup = truth === undefined ? {} : { truth };
  const lines = linesOf(circuit, base);
  const windows = useWindows(
    bench.diagnosed,
    lines.map(({ measurement }) => measurement),
  );
  const typed: Typed[] = lines.map(({ measurement }, index) => ((texts[index] ?? "").trim() === "" ? null : valueTyped(texts[index] ?? "", measurement)));
  const wrong = typed.some((one) => one !== null && !one.ok);
  const any = typed.some((one) => one?.ok);
  const enter = (): void => {
    setTried(true);
    if (wrong || !any) return;
    const readings = lines.flatMap(({ measurement }, index): Reading[] => {
      const one = typed[index];
      if (!one?.ok) return [];
      const value: Value = one.value;
      return [
        {
          ...movedAt(measurement, place),
          ...(typeof value === "object" ? { record: "min-max" as const } : {}),
          value,
          ...(failed === null ? {} : { symptom: failed }),
        },
      ];
    });
    bench.enterReadings(readings.map((reading, index) => ({ reading, minutes: index === 0 ? FIRST_MINUTES : FURTHER_MINUTES })));
    setEntered((before) => [...before, t.took(readings.length, place === null ? t.untouched : place === "loom" ? t.loom : placeWord(place))]);
    setTexts([]);
    setTried(false);
  };
  return (
    <Modal open onOpen={onOpen} title={t.title(circuit.title)} lead={t.byHand} width="middle">
      <form
        className="grid gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          enter();
        }}
      >
        <PlaceChoice places={movedPlaces(circuit)} place={place} onPlace={setPlace} />
        <div className="grid gap-3 sm:grid-cols-3">
          {lines.map(({ name, measurement }, index) => {
            const window = windows?.[index];
            const one = typed[index];
            return (
              <TextField
                key={measurement.red}
                label={`${name} ${placeWord(measurement.red.split("@")[1] ?? "")}, V`}
                hint={window ? `${messages.bench.wanted} ${formatWindow(window.low, window.high, "V")}` : undefined}
                error={tried && one != null && !one.ok ? one.message : undefined}
                inputMode="text"
                className="readout text-lg"
                value={texts[index] ?? ""}
                onChange={(event) => setTexts(lines.map((_, at) => (at === index ? event.target.value : (texts[at] ?? ""))))}
              />
            );
          })}
        </div>
        <Symptom value={failed} onChange={setFailed} />
        {tried && !any && !wrong && (
          <p role="alert" className="m-0 text-ember">
            {t.nothingTyped}
          </p>
        )}
        <ol className="m-0 list-none p-0 text-sm text-soft" aria-live="polite">
          {entered.map((line, index) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a list that only grows
            <li key={index}>✓ {line}</li>
          ))}
        </ol>
        <div className="flex gap-2">
          <Button type="submit" weight="next" className="min-h-12 flex-1">
            {t.enterLines}
          </Button>
          <Button className="min-h-12" onClick={() => onOpen(false)}>
            {messages.bench.close}
          </Button>
        </div>
      </form>
    </Modal>
  );
}
