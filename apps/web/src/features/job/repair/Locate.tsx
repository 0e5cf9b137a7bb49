import { unitKind } from "@fox-lamp/core";
import type { EntryOf } from "@fox-lamp/language";
import { useState } from "react";
import { namerOf } from "../../../circuit/names-of";
import { messages } from "../../../messages";
import { Block, Button, numberIn, Select, TextField } from "../../../ui/form";
import { useKept } from "../../../ui/kept";
import type { Work } from "../shared/JobFrame";

const t = messages.repair;

type Located = EntryOf<"located">["body"];
const WAYS = ["look", "wiggle", "measured", "found"] as const;
const REMEDIES = ["wire", "loom", "contact", "part", "clean", "module"] as const;

/** Where along the wire it is: what was looked at, moved and measured, until the place is found. */
export function Locate({ work, units }: { work: Work; units: readonly string[] }) {
  const { job, state, shop, enter } = work;
  const nameOf = namerOf(job.circuits);
  const [way, setWay] = useState<Located["way"]>("look");
  const [place, setPlace] = useKept(`place ${job.id}`, "");
  const [text, setText] = useKept(`seen ${job.id}`, "");
  const [unit, setUnit] = useState(units[0] ?? "");
  const [wires, setWires] = useState("1");
  const [remedy, setRemedy] = useState<NonNullable<Located["remedy"]>>(unitKind(unit) === "contact" ? "contact" : "wire");
  const [problem, setProblem] = useState<string | null>(null);
  const from = shop?.settings.policy.changeLoomFrom ?? 4;
  const count = numberIn(wires);
  const found = way === "found";
  const add = (): void => {
    if (place.trim() === "") {
      setProblem(messages.needed(t.place));
      return;
    }
    if (found && (count === undefined || count === null || !Number.isInteger(count) || count < 0)) {
      setProblem(messages.notANumber(wires));
      return;
    }
    setProblem(null);
    enter({
      kind: "located",
      body: { unit, way, place: place.trim(), ...(text.trim() ? { text: text.trim() } : {}), ...(found ? { wires: count as number, remedy } : {}) },
    });
    setText("");
    if (!found) setPlace("");
  };
  return (
    <Block title={t.locate}>
      <p className="mt-0 text-sm text-soft">{t.locateLead}</p>
      <ol className="m-0 mb-3 list-none p-0">
        {state.located.map(({ entry, way: how, place: where, text: says, remedy: with_, wires: damaged, by }) => (
          <li key={entry} className={`border-t border-line py-2 first:border-t-0 ${how === "found" ? "font-bold" : ""}`}>
            {t.way[how]}: {where}
            {says ? `, ${says}` : ""}
            {with_ ? `. ${t.remedies[with_]}` : ""}
            {damaged !== undefined && damaged >= from && with_ !== "loom" ? (
              <span className="block text-sm text-ember">{t.loomRule(damaged, from)}</span>
            ) : null}
            <span className="text-sm font-normal text-soft"> {by}</span>
          </li>
        ))}
      </ol>
      <div className="grid gap-3 sm:grid-cols-2">
        <Select label={t.how} value={way} options={WAYS.map((name) => [name, t.way[name]] as const)} onChange={setWay} />
        {units.length > 1 && <Select label={t.unit} value={unit} options={units.map((name) => [name, nameOf(name)] as const)} onChange={setUnit} />}
        <TextField label={t.place} value={place} onChange={(event) => setPlace(event.target.value)} error={problem ?? undefined} />
        <TextField label={t.what} value={text} onChange={(event) => setText(event.target.value)} />
        {found && (
          <>
            <TextField
              label={t.wires}
              inputMode="numeric"
              value={wires}
              onChange={(event) => setWires(event.target.value)}
              hint={typeof count === "number" && count >= from ? t.loomRule(count, from) : undefined}
            />
            <Select label={t.remedy} value={remedy} options={REMEDIES.map((name) => [name, t.remedies[name]] as const)} onChange={setRemedy} />
          </>
        )}
      </div>
      <Button weight={state.located.some(({ way: how }) => how === "found") ? "other" : "next"} onClick={add} className="mt-3">
        {t.add}
      </Button>
    </Block>
  );
}
