import { judgeBattery } from "@fox-lamp/core";
import type { Battery } from "@fox-lamp/language";
import { useState } from "react";
import { reasonOf, useReadInstrumentsMutation } from "../../../app/api";
import { messages } from "../../../messages";
import { Block, Button, Chip, numberIn, TextField } from "../../../ui/form";
import { useKept } from "../../../ui/kept";
import { toast } from "../../../ui/toast";
import type { Work } from "../shared/JobFrame";

const t = messages.battery;
const volts = (value: number): string => `${value.toFixed(2)} V`;

/** What a battery's voltages mean: in sentences, and whether anything may be tested on it. */
export function batteryWords(battery: Battery): { fit: boolean; lines: string[] } {
  const { fit, worn, charge, leastVolts, dips, ratedPercent } = judgeBattery(battery);
  const percent = (value: number): string => `${Math.round(value)} %`;
  const lines = [t.charge(percent(charge.value), percent(charge.low), percent(charge.high))];
  if (battery.crankingVolts !== undefined) lines.push((dips ? t.dipLow : t.dip)(volts(battery.crankingVolts), volts(leastVolts)));
  if (ratedPercent !== null) lines.push(t.percent(percent(ratedPercent)));
  lines.push(worn ? t.replace : fit ? t.fit : t.unfit);
  return { fit, lines };
}

const FIELDS = [
  ["restVolts", t.rest],
  ["crankingVolts", t.cranking],
  ["temperature", t.temperature],
  ["ratedAmps", t.rated],
  ["measuredAmps", t.measured],
] as const;
type FieldName = (typeof FIELDS)[number][0];

/** The battery before anything else: measured, judged, charged, measured again. */
export function BatteryBlock({ job, state, enter }: Work) {
  const [read, { isLoading }] = useReadInstrumentsMutation();
  const [typed, setTyped] = useKept<Partial<Record<FieldName, string>>>(`battery ${job.id}`, {});
  const [charged, setCharged] = useState(false);
  const [problems, setProblems] = useState<Partial<Record<FieldName, string>>>({});
  const { battery, batteryBefore } = state;
  const verdict = battery === null ? null : batteryWords(battery);
  const [open, setOpen] = useState(battery === null && (state.stage === "complaint" || state.stage === "codes"));

  const instrument = async (): Promise<void> => {
    const circuit = job.circuits[0]?.id;
    const posts = { ...(circuit === undefined ? {} : { circuit }), meter: "volts-dc" as const, red: "bat+", black: "bat-" };
    const answer = await read({
      job: job.id,
      measurements: [
        { ...posts, setup: { key: "off" } },
        { ...posts, setup: { key: "crank" } },
      ],
    });
    if ("error" in answer) {
      toast.error(reasonOf(answer.error) ?? messages.bench.instrumentFailed);
      return;
    }
    const [rest, cranking] = answer.data.values;
    const shown = (value: unknown): string => (typeof value === "number" ? value.toFixed(2) : "");
    setTyped({ ...typed, restVolts: shown(rest), crankingVolts: shown(cranking) });
  };
  const save = (): void => {
    const values: Partial<Record<FieldName, number>> = {};
    const wrong: Partial<Record<FieldName, string>> = {};
    for (const [name, label] of FIELDS) {
      const value = numberIn(typed[name] ?? "");
      if (value === undefined) wrong[name] = messages.notANumber(typed[name] ?? "");
      else if (value !== null) values[name] = value;
      else if (name === "restVolts") wrong[name] = messages.needed(label);
      if ((name === "restVolts" || name === "crankingVolts") && typeof value === "number" && (value < 0 || value > 18))
        wrong[name] = t.doubt(typed[name] ?? "");
    }
    setProblems(wrong);
    const { restVolts, ...rest } = values;
    if (Object.keys(wrong).length > 0 || restVolts === undefined) return;
    enter({ kind: "battery", body: { restVolts, ...rest, ...(charged ? { charged: true } : {}) } });
    setTyped({});
    setOpen(false);
  };
  return (
    <Block
      title={t.title}
      aside={!open && <Button onClick={() => setOpen(true)}>{battery === null ? t.measure : verdict?.fit ? messages.complaint.edit : t.again}</Button>}
    >
      {verdict && battery && (
        <div className={`mb-2 rounded-lg px-3 py-2 ${verdict.fit ? "border-2 border-calm" : "bg-caution"}`}>
          <p className="readout m-0 text-lg font-bold">
            {verdict.fit ? "✓" : "✕"} {volts(battery.restVolts)}
            {battery.crankingVolts === undefined ? "" : ` / ${volts(battery.crankingVolts)}`}
          </p>
          <ul className="m-0 list-none p-0 text-sm">
            {verdict.lines.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
          {batteryBefore && <p className="mb-0 mt-1 text-sm text-soft">{t.before(volts(batteryBefore.restVolts))}</p>}
        </div>
      )}
      {open && (
        <>
          <p className="mb-2 mt-0 text-sm text-soft">{t.lead}</p>
          <div className="grid grid-cols-2 gap-3">
            {FIELDS.map(([name, label]) => (
              <TextField
                key={name}
                label={label}
                inputMode="decimal"
                value={typed[name] ?? ""}
                error={problems[name]}
                onChange={(event) => setTyped({ ...typed, [name]: event.target.value })}
                className="readout"
              />
            ))}
          </div>
          <div className="mt-3 flex flex-wrap gap-2">
            {battery !== null && (
              <Chip on={charged} onChange={setCharged}>
                {t.again}
              </Chip>
            )}
            {job.simulated && (
              <Button disabled={isLoading} onClick={() => void instrument()}>
                {t.read}
              </Button>
            )}
            <Button weight="next" onClick={save}>
              {t.save}
            </Button>
          </div>
        </>
      )}
    </Block>
  );
}
