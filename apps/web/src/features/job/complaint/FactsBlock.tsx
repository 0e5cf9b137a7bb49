import { CODE_FACTS, ENGINE_STATES, type Facts, keysOf, LAMP_STATES, SYMPTOMS } from "@fox-lamp/language";
import { useState } from "react";
import { altitudeIn } from "../../../circuit/facts";
import { messages } from "../../../messages";
import { Block, Button, Chip, Select, TextField } from "../../../ui/form";
import type { Work } from "../shared/JobFrame";

const t = messages.facts;
const UNKNOWN = "";
const HINTS = keysOf(messages.intake.hint);

/** What is known of the car without measuring: every answer is entered when it is given. */
export function FactsBlock({ state, enter }: Pick<Work, "state" | "enter">) {
  const { facts, hints, conditions } = state;
  const [altitude, setAltitude] = useState(facts.altitudeMetres === undefined ? "" : String(facts.altitudeMetres));
  const metres = altitudeIn(altitude);
  const save = (next: Facts, nextHints: readonly string[] = hints): void =>
    void enter({ kind: "conditions", body: { ...conditions, facts: next, hints: [...nextHints] } });
  /** One fact said, or no longer said. */
  const say = <K extends keyof Facts>(name: K, value: Facts[K] | typeof UNKNOWN): void => {
    const { [name]: _before, ...rest } = facts;
    save(value === UNKNOWN ? rest : { ...rest, [name]: value });
  };
  const choice = <T extends string>(values: readonly T[], words: Readonly<Record<T, string>>): (readonly [T | typeof UNKNOWN, string])[] => [
    [UNKNOWN, t.unknown],
    ...values.map((value) => [value, words[value]] as const),
  ];
  return (
    <Block title={t.title}>
      <p className="mb-2 mt-0 text-sm text-soft">{t.lead}</p>
      <div className="grid gap-2 sm:grid-cols-2">
        <Select label={t.ask.engine} value={facts.engine ?? UNKNOWN} options={choice(ENGINE_STATES, t.engine)} onChange={(value) => say("engine", value)} />
        <Select label={t.ask.codes} value={facts.codes ?? UNKNOWN} options={choice(CODE_FACTS, t.codes)} onChange={(value) => say("codes", value)} />
        <Select label={t.ask.lamp} value={facts.lamp ?? UNKNOWN} options={choice(LAMP_STATES, t.lamp)} onChange={(value) => say("lamp", value)} />
        <TextField
          label={t.ask.altitude}
          value={altitude}
          inputMode="text"
          hint={t.altitudeHint}
          error={metres === undefined ? t.badAltitude(altitude) : undefined}
          onChange={(event) => setAltitude(event.target.value)}
          onBlur={() => metres !== undefined && (metres ?? undefined) !== facts.altitudeMetres && say("altitudeMetres", metres ?? UNKNOWN)}
        />
      </div>
      {facts.leftOpen !== undefined && (
        <div className="mt-3 flex flex-wrap items-center gap-2">
          <p className="m-0 flex-1">{t.leftOpen(facts.leftOpen.job)}</p>
          <Button weight="quiet" onClick={() => say("leftOpen", UNKNOWN)}>
            {t.leftOpenDrop}
          </Button>
        </div>
      )}
      <fieldset className="m-0 mt-3 flex flex-wrap gap-2 border-0 p-0">
        <legend className="mb-1 text-sm text-soft">{t.symptomsTitle}</legend>
        {SYMPTOMS.map((symptom) => {
          const said = facts.symptoms ?? [];
          return (
            <Chip
              key={symptom}
              on={said.includes(symptom)}
              onChange={(on) => say("symptoms", on ? [...said, symptom] : said.filter((other) => other !== symptom))}
            >
              {t.symptoms[symptom]}
            </Chip>
          );
        })}
      </fieldset>
      <fieldset className="m-0 mt-3 flex flex-wrap gap-2 border-0 p-0">
        <legend className="mb-1 text-sm text-soft">{messages.intake.hints}</legend>
        {HINTS.map((hint) => (
          <Chip key={hint} on={hints.includes(hint)} onChange={(on) => save(facts, on ? [...hints, hint] : hints.filter((other) => other !== hint))}>
            {messages.intake.hint[hint]}
          </Chip>
        ))}
      </fieldset>
    </Block>
  );
}
