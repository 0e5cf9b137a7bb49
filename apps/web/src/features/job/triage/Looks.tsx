import type { Look } from "@fox-lamp/core";
import { findingsAt, placeWord, type Reading, type Setup } from "@fox-lamp/language";
import { useState } from "react";
import { nextName } from "../../../app/reading-names";
import { messages } from "../../../messages";
import { Block, Button, Select } from "../../../ui/form";
import type { Work } from "../shared/JobFrame";

const t = messages.look;
const PLACES = ["sensor", "loom", "module", "part", "target"] as const;
/** A look takes about this long, minutes. */
const LOOK_MINUTES = 1;
/** Kept in the record, and weighs nothing: nobody has seen the place. */
const NOT_SEEN = "cannot-see";
const KEY_OFF: Setup = { key: "off" };

/** One place to look at: what was seen is entered where it is asked, any number of things. */
function LookRow({ circuit, at, question, work }: Look & { work: Work }) {
  const { state, enter } = work;
  const seen = state.readings.filter(({ reading }) => reading.meter === "look" && reading.red === at && reading.circuit === circuit);
  const takeBack = (entry: string): void => void enter({ kind: "retraction", body: { entry } });
  const add = (value: string): void => {
    // "Looks fine" and what is wrong with it exclude each other: the later word counts.
    const against = seen.filter(({ reading }) => value === "ok" || value === NOT_SEEN || reading.value === "ok" || reading.value === NOT_SEEN);
    const reading: Reading = { id: nextName(state.readings), circuit, meter: "look", red: at, value, setup: KEY_OFF };
    enter(...against.map(({ entry }) => ({ kind: "retraction" as const, body: { entry } })), {
      kind: "reading",
      body: { reading, minutes: value === NOT_SEEN ? 0 : LOOK_MINUTES },
    });
  };
  const isSeen = (value: string) => seen.find(({ reading }) => reading.value === value);
  return (
    <li className="border-t border-line py-3 first:border-t-0 first:pt-0">
      <p className="mb-2 mt-0">{question}</p>
      <div className="flex flex-wrap gap-2">
        {[...findingsAt(at), NOT_SEEN].map((value) => {
          const found = isSeen(value);
          return (
            <button
              key={value}
              type="button"
              aria-pressed={found !== undefined}
              onClick={() => (found ? takeBack(found.entry) : add(value))}
              className={`min-h-11 rounded-lg border px-3 ${found ? "border-lamp bg-well font-bold text-ink" : "border-edge text-soft hover:text-ink"}`}
            >
              {messages.bench.findings[value] ?? value}
            </button>
          );
        })}
      </div>
    </li>
  );
}

/** What to look at before anything is touched, answered in place; any other place can be looked at too. */
export function Looks({ looks, work }: { looks: readonly Look[]; work: Work }) {
  const { job, state } = work;
  const [other, setOther] = useState<readonly Look[]>([]);
  const [circuit, setCircuit] = useState(job.circuits[0]?.id ?? "");
  const [place, setPlace] = useState<(typeof PLACES)[number]>("sensor");
  if (job.circuits.length === 0) return null;
  const titleOf = (id: string): string => job.circuits.find((one) => one.id === id)?.title ?? id;
  const lookAt = (id: string, at: string): Look => ({ circuit: id, at, question: `${titleOf(id)}, ${t.places[at as keyof typeof t.places] ?? placeWord(at)}` });
  const isListed = (listed: readonly Look[], { circuit: id, at }: Look): boolean => listed.some((one) => one.circuit === id && one.at === at);
  const taken = state.readings.flatMap(({ reading }) => (reading.meter === "look" ? [lookAt(reading.circuit ?? job.circuits[0]?.id ?? "", reading.red)] : []));
  const all = [...looks];
  for (const look of [...taken, ...other]) if (!isListed(all, look)) all.push(look);
  return (
    <Block title={t.title}>
      <ul className="m-0 list-none p-0">
        {all.map((look) => (
          <LookRow key={`${look.circuit} ${look.at}`} {...look} work={work} />
        ))}
      </ul>
      <div className="mt-3 grid items-end gap-3 border-t border-line pt-3 sm:grid-cols-[1fr_1fr_auto]">
        <Select label={t.circuit} value={circuit} options={job.circuits.map(({ id, title }) => [id, title ?? id] as const)} onChange={setCircuit} />
        <Select label={t.place} value={place} options={PLACES.map((name) => [name, t.places[name]] as const)} onChange={setPlace} />
        <Button onClick={() => setOther([...other, lookAt(circuit, place)])}>{t.add}</Button>
      </div>
    </Block>
  );
}
