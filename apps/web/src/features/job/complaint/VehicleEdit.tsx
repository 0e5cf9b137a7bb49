import type { Vehicle } from "@fox-lamp/language";
import { type FormEvent, useState } from "react";
import { reasonOf, useChangeVehicleMutation } from "../../../app/api";
import { messages } from "../../../messages";
import { Button, largeNumberIn, TextField } from "../../../ui/form";
import { Modal } from "../../../ui/Modal";

const t = messages.intake;
const TEXTS = ["name", "make", "model", "engine", "plate"] as const;
const NUMBERS = ["year", "mileageKm"] as const;
const LABELS = { name: t.name, make: t.make, model: t.model, engine: t.engine, plate: t.plate, year: t.year, mileageKm: t.mileage } as const;

/** The vehicle in the register, set right. */
export function VehicleEdit({ id, vehicle, onDone }: { id: string; vehicle: Vehicle; onDone: () => void }) {
  const [change, { isLoading }] = useChangeVehicleMutation();
  const [problem, setProblem] = useState<string | null>(null);
  const save = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const details: Vehicle = { ...vehicle };
    for (const name of TEXTS) {
      const text = String(form.get(name) ?? "").trim();
      if (text === "") delete details[name];
      else details[name] = text;
    }
    for (const name of NUMBERS) {
      const text = String(form.get(name) ?? "");
      const value = largeNumberIn(text);
      if (value === undefined) {
        setProblem(`${LABELS[name]}: ${messages.notANumber(text)}`);
        return;
      }
      if (value === null) delete details[name];
      else details[name] = value;
    }
    const answer = await change({ id, details });
    if ("error" in answer) setProblem(reasonOf(answer.error) ?? messages.states.failed);
    else onDone();
  };
  return (
    <Modal open onOpen={onDone} title={messages.complaint.register}>
      <form onSubmit={(event) => void save(event)} className="mt-3 grid grid-cols-2 gap-3">
        {[...TEXTS, ...NUMBERS].map((name) => (
          <TextField key={name} name={name} label={LABELS[name]} defaultValue={vehicle[name] ?? ""} />
        ))}
        {problem !== null && (
          <p role="alert" className="col-span-2 m-0 text-ember">
            {problem}
          </p>
        )}
        <Button type="submit" weight="next" disabled={isLoading} className="col-span-2">
          {messages.complaint.save}
        </Button>
      </form>
    </Modal>
  );
}
