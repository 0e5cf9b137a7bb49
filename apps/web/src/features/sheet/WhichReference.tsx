import { type ReferenceFound, referenceFrom } from "@fox-lamp/core";
import { useState } from "react";
import { valueTyped } from "../../circuit/typed";
import { messages } from "../../messages";
import { Button, TextField } from "../../ui/form";
import { Modal } from "../../ui/Modal";

const t = messages.sheet.which;

interface Props {
  /** The pin as people call it. */
  readonly pin: string;
  readonly open: boolean;
  readonly onOpen: (open: boolean) => void;
  readonly onFound: (volts: number) => void;
}

type Name = "volts" | "battery" | "movedVolts" | "movedBattery";

/** Volts as typed; null where nothing is, undefined for what is none. */
function voltsIn(text: string): number | null | undefined {
  if (text.trim() === "") return null;
  const typed = valueTyped(text, { meter: "volts-dc", red: "bat-" });
  return typed.ok && typeof typed.value === "number" ? typed.value : undefined;
}

function sentenceOf({ found, volts }: ReferenceFound, pin: string): string {
  switch (found) {
    case "reference":
      return t.isReference(volts);
    case "battery":
      return t.isBattery;
    case "ask-moved":
      return t.askMoved;
    case "moved-too-little":
      return t.movedTooLittle;
    case "none":
      return t.nothingThere(pin);
    case "no-reference":
      return t.noReference;
  }
}

/** Guided measurement that settles which reference a circuit has, where no chart says it. */
export function WhichReference({ pin, open, onOpen, onFound }: Props) {
  const [texts, setTexts] = useState<Readonly<Partial<Record<Name, string>>>>({});
  const read = (name: Name): number | null | undefined => voltsIn(texts[name] ?? "");
  const [volts, battery, movedVolts, movedBattery] = [read("volts"), read("battery"), read("movedVolts"), read("movedBattery")];
  const moved = typeof movedVolts === "number" && typeof movedBattery === "number" ? { volts: movedVolts, battery: movedBattery } : undefined;
  const answer = typeof volts === "number" && typeof battery === "number" ? referenceFrom({ volts, battery, moved }) : null;
  const asksMoved = moved !== undefined || answer?.found === "ask-moved" || answer?.found === "moved-too-little";
  const field = (name: Name, label: string) => (
    <TextField
      label={label}
      value={texts[name] ?? ""}
      error={read(name) === undefined ? messages.notANumber(texts[name] ?? "") : undefined}
      onChange={(event) => setTexts({ ...texts, [name]: event.target.value })}
      className="readout"
    />
  );
  return (
    <Modal open={open} onOpen={onOpen} title={t.title} lead={t.lead(pin)}>
      <div className="grid gap-3 sm:grid-cols-2">
        {field("volts", t.volts(pin))}
        {field("battery", t.battery)}
        {asksMoved && field("movedVolts", t.movedVolts(pin))}
        {asksMoved && field("movedBattery", t.movedBattery)}
      </div>
      <p role="status" className="m-0 mt-3 font-bold">
        {answer === null ? "" : sentenceOf(answer, pin)}
      </p>
      <div className="mt-3 flex flex-wrap gap-2">
        {answer !== null && answer.volts !== null && (
          <Button
            weight="next"
            onClick={() => {
              onFound(answer.volts);
              onOpen(false);
            }}
          >
            {t.fill(answer.volts)}
          </Button>
        )}
        <Button onClick={() => onOpen(false)}>{messages.complaint.cancel}</Button>
      </div>
    </Modal>
  );
}
