import type { CircuitView } from "@fox-lamp/core";
import { Plus, X } from "lucide-react";
import { messages } from "../../../messages";
import { Combo } from "../../../ui/Combo";
import { Button, Select, TextField } from "../../../ui/form";
import { type DraftPart, type DraftProblem, PART_KINDS, type PointOption, pointsOf } from "./draft";

const own = messages.ownTest;

interface Props {
  readonly parts: readonly DraftPart[];
  readonly circuit: CircuitView;
  readonly circuits: readonly CircuitView[];
  readonly problem: DraftProblem | null;
  readonly onChange: (parts: readonly DraftPart[]) => void;
}

/** Where a new part goes until somebody says otherwise: from the signal to the ground at the sensor's plug, as far as there are such. */
function newPart(circuit: CircuitView, points: readonly PointOption[]): DraftPart {
  const at = (role: string): string | undefined => {
    const pin = circuit.pins.find((candidate) => candidate.role === role && candidate.places.length > 0);
    return pin && `${pin.pin}@${pin.places.includes("sensor") ? "sensor" : pin.places.at(-1)}`;
  };
  const from = at("signal") ?? points[0]?.value ?? "bat+";
  const to = at("ground") ?? "bat-";
  return { kind: "jumper", from, to: to === from ? "chassis" : to, ohms: "" };
}

/** Jumpers, resistors and lamps put between any two points. */
export function PutIn({ parts, circuit, circuits, problem, onChange }: Props) {
  const points = pointsOf(circuit, circuits);
  const set = (index: number, change: Partial<DraftPart>): void => onChange(parts.map((part, at) => (at === index ? { ...part, ...change } : part)));
  return (
    <div className="grid gap-3">
      {parts.map((part, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: parts have no name but their place in the list
        <div key={index} className="grid gap-2 rounded-xl border border-line p-3">
          <div className="flex items-end gap-2">
            <div className="min-w-0 flex-1">
              <Select
                label={own.part}
                value={part.kind}
                options={PART_KINDS.map((kind) => [kind, own.parts[kind]] as const)}
                onChange={(kind) => set(index, { kind })}
              />
            </div>
            <button
              type="button"
              aria-label={own.takeOut(own.parts[part.kind])}
              onClick={() => onChange(parts.filter((_, at) => at !== index))}
              className="grid size-11 shrink-0 place-items-center rounded-lg border border-edge text-soft"
            >
              <X size={18} aria-hidden="true" />
            </button>
          </div>
          {part.kind === "resistor" && (
            <TextField
              label={own.ohms}
              value={part.ohms}
              inputMode="text"
              onChange={(event) => set(index, { ohms: event.target.value })}
              error={problem?.field === `ohms${index}` && part.ohms !== "" ? problem.message : undefined}
            />
          )}
          <Combo label={own.from} value={part.from} options={points} onChange={(from) => set(index, { from })} />
          <Combo label={own.to} value={part.to} options={points} onChange={(to) => set(index, { to })} />
        </div>
      ))}
      <Button onClick={() => onChange([...parts, newPart(circuit, points)])} className="flex items-center justify-center gap-2">
        <Plus size={18} aria-hidden="true" /> {own.addPart}
      </Button>
    </div>
  );
}
