import { type Finding, findingsAt, type Reading } from "@fox-lamp/language";
import { useState } from "react";
import { nextName } from "../../../app/use-job";
import { readingTitle, valueText } from "../../../circuit/wording";
import { messages } from "../../../messages";
import { Block, Button, Select } from "../../../ui/form";
import type { Work } from "../shared/JobFrame";

const t = messages.look;
const PLACES = ["sensor", "loom", "module", "part", "target"] as const;
/** A look takes about this long, minutes. */
const LOOK_MINUTES = 1;

/** What was seen before anything is touched: a reading like any other, which weighs at once. */
export function LookForm({ job, state, enter }: Work) {
  const [circuit, setCircuit] = useState(job.circuits[0]?.id ?? "");
  const [place, setPlace] = useState<(typeof PLACES)[number]>("sensor");
  const [value, setValue] = useState<Finding>("ok");
  if (job.circuits.length === 0) return null;
  const chooseAt = (next: (typeof PLACES)[number]): void => {
    setPlace(next);
    if (!findingsAt(next).includes(value)) setValue("ok");
  };
  const looks = state.readings.filter(({ reading }) => reading.meter === "look");
  const add = (): void => {
    const reading: Reading = { id: nextName(state.readings), circuit, meter: "look", red: place, value, setup: { key: "off" } };
    enter({ kind: "reading", body: { reading, minutes: LOOK_MINUTES } });
  };
  const titleOf = (id: string | undefined): string => job.circuits.find((one) => one.id === id)?.title ?? id ?? "";
  return (
    <Block title={t.title}>
      {looks.length > 0 && (
        <ul className="m-0 mb-3 list-none p-0 text-sm">
          {looks.map(({ entry, reading }) => (
            <li key={entry} className="flex justify-between gap-3 border-t border-line py-1.5 first:border-t-0">
              <span>
                {titleOf(reading.circuit)}, {readingTitle(reading)}
              </span>
              <span className="font-bold">{valueText(reading.value, "")}</span>
            </li>
          ))}
        </ul>
      )}
      <div className="grid gap-3 sm:grid-cols-3">
        <Select label={t.circuit} value={circuit} options={job.circuits.map(({ id, title }) => [id, title ?? id] as const)} onChange={setCircuit} />
        <Select label={t.place} value={place} options={PLACES.map((name) => [name, t.places[name]] as const)} onChange={chooseAt} />
        <Select label={t.seen} value={value} options={findingsAt(place).map((name) => [name, messages.bench.findings[name]] as const)} onChange={setValue} />
      </div>
      <Button className="mt-3" onClick={add}>
        {t.add}
      </Button>
    </Block>
  );
}
