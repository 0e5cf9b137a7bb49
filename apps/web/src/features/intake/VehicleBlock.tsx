import type { RegisteredVehicle } from "@fox-lamp/language";
import { useState } from "react";
import type { UseFormRegister, UseFormReturn } from "react-hook-form";
import { useVehiclesQuery } from "../../app/api";
import { leftOpenText } from "../../circuit/names-of";
import { messages } from "../../messages";
import { Block, Button, Chip, largeNumberIn, TextField } from "../../ui/form";
import { vehicleLine, vehicleName } from "../../ui/vehicle";
import type { Choices, Form } from "./form";

const t = messages.intake;

const number = (value: string): string | true => largeNumberIn(value) !== undefined || messages.notANumber(value);

interface Fields {
  readonly register: UseFormRegister<Form>;
  readonly errors: UseFormReturn<Form>["formState"]["errors"];
}

interface Props extends Fields {
  readonly chosen: RegisteredVehicle | null;
  readonly onChoose: (vehicle: RegisteredVehicle | null) => void;
  /** How many jobs it had, in words. */
  readonly jobs: string;
  readonly leftOpen: Choices["leftOpen"];
  /** Whether its circuits, and what its last job left open, come along. */
  readonly along: boolean;
  readonly onAlong: (on: boolean) => void;
  readonly onward: boolean;
  readonly onOnward: (on: boolean) => void;
}

/** Which vehicle: one of the register, or a new one. */
export function VehicleBlock(props: Props) {
  const { chosen, onChoose, register, errors } = props;
  return (
    <Block title={t.vehicle}>
      {chosen ? (
        <Chosen {...props} chosen={chosen} />
      ) : (
        <div className="grid gap-4 md:grid-cols-2">
          <Register onChoose={onChoose} />
          <NewVehicle register={register} errors={errors} />
        </div>
      )}
    </Block>
  );
}

function Chosen({ chosen, onChoose, jobs, leftOpen, along, onAlong, onward, onOnward, register, errors }: Props & { chosen: RegisteredVehicle }) {
  return (
    <div className="grid gap-3">
      <div className="flex flex-wrap items-center gap-3">
        <p className="m-0 flex-1">
          <span className="text-lg font-bold">{vehicleName(chosen.details)}</span>{" "}
          <span className="text-soft">{[vehicleLine(chosen.details), chosen.details.plate].filter(Boolean).join(" · ")}</span>
          <span className="block text-sm text-soft">{t.chosen(jobs)}</span>
        </p>
        <Button onClick={() => onChoose(null)}>{t.another}</Button>
      </div>
      {chosen.circuits.length > 0 && (
        <Chip on={along} onChange={onAlong}>
          {t.take}: {t.known(chosen.circuits.length)}
        </Chip>
      )}
      {leftOpen !== null && along && (
        <Chip on={onward} onChange={onOnward}>
          {t.leftOpen(leftOpen.job, leftOpenText(leftOpen, chosen.circuits))}
        </Chip>
      )}
      <TextField label={t.mileage} inputMode="numeric" error={errors.mileage?.message} {...register("mileage", { validate: number })} />
    </div>
  );
}

function NewVehicle({ register, errors }: Fields) {
  return (
    <fieldset className="m-0 grid grid-cols-2 gap-3 border-0 p-0">
      <legend className="mb-1 text-sm text-soft">{t.newVehicle}</legend>
      <div className="col-span-2">
        <TextField label={t.name} {...register("name")} />
      </div>
      <TextField label={t.make} {...register("make")} />
      <TextField label={t.model} {...register("model")} />
      <TextField label={t.engine} {...register("engine")} />
      <TextField label={t.year} inputMode="numeric" error={errors.year?.message} {...register("year", { validate: number })} />
      <TextField label={t.plate} {...register("plate")} />
      <TextField label={t.mileage} inputMode="numeric" error={errors.mileage?.message} {...register("mileage", { validate: number })} />
    </fieldset>
  );
}

/** The register, searched while one types. */
function Register({ onChoose }: { onChoose: (vehicle: RegisteredVehicle) => void }) {
  const [text, setText] = useState("");
  const { data = [] } = useVehiclesQuery(text.trim());
  return (
    <div className="grid gap-2">
      <TextField label={t.find} type="search" value={text} onChange={(event) => setText(event.target.value)} />
      <ul className="m-0 grid max-h-60 list-none gap-1.5 overflow-y-auto p-0">
        {data.slice(0, 8).map((vehicle) => (
          <li key={vehicle.id}>
            <button type="button" onClick={() => onChoose(vehicle)} className="w-full rounded-lg border border-line px-3 py-2 text-left hover:border-lamp">
              <span className="font-bold">{vehicleName(vehicle.details)}</span>{" "}
              <span className="text-sm text-soft">{[vehicleLine(vehicle.details), vehicle.details.plate].filter(Boolean).join(" · ")}</span>
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}
