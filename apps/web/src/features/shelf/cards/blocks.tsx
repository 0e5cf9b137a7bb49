import { answerAlong, averageVolts, CALCULATORS, type CalculatorField, calculate, dividerVolts, signalCurveOf } from "@fox-lamp/core";
import type { Circuit } from "@fox-lamp/language";
import { useId, useState } from "react";
import { messages } from "../../../messages";
import { Drawing } from "../calculators/Drawing";
import { shownIn, symbolOf, unitFor } from "../calculators/numbers";
import type { LiveBlock } from "./cards";

const t = messages.cards;

/** A number to be moved, with what it is now. */
function Slider({
  label,
  value,
  least,
  most,
  step,
  shown,
  onValue,
}: {
  label: string;
  value: number;
  least: number;
  most: number;
  step: number;
  shown: string;
  onValue: (value: number) => void;
}) {
  const id = useId();
  return (
    <div className="grid grid-cols-[1fr_auto] gap-x-3">
      <label htmlFor={id} className="text-sm text-soft">
        {label}
      </label>
      <output htmlFor={id} className="readout text-sm">
        {shown}
      </output>
      <input
        id={id}
        type="range"
        min={least}
        max={most}
        step={step}
        value={value}
        onChange={(event) => onValue(Number(event.target.value))}
        className="col-span-2 min-h-11 w-full accent-[var(--lamp)]"
      />
    </div>
  );
}

function Figure({ label, value }: { label: string; value: string }) {
  return (
    <p className="m-0 mt-1" aria-live="polite">
      <span className="text-soft">{label}</span> <span className="readout text-2xl font-bold text-lamp">{value}</span>
    </p>
  );
}

const volts = (value: number): string => shownIn(value, "V", unitFor(value, "V"));
const ohms = (value: number): string => shownIn(value, "ohm", unitFor(value, "ohm"));

/** A square wave as it is, and what an averaging meter makes of it. */
function Averaging() {
  const [low, setLow] = useState(0.1);
  const [high, setHigh] = useState(5);
  const [duty, setDuty] = useState(10);
  const average = averageVolts(low, high, duty);
  const [width, height, top] = [460, 150, Math.max(high, 12.5)];
  const y = (value: number): number => 10 + (height - 20) * (1 - value / top);
  const period = (width - 20) / 4;
  const wave = Array.from({ length: 4 }, (_, turn) => {
    const x = 10 + turn * period;
    const fall = x + (period * duty) / 100;
    return `${turn === 0 ? `M${x} ${y(low)}` : ""}L${x} ${y(high)}L${fall} ${y(high)}L${fall} ${y(low)}L${x + period} ${y(low)}`;
  }).join("");
  return (
    <>
      <svg viewBox={`0 0 ${width} ${height}`} role="img" aria-label={t.wave} className="h-auto w-full">
        <path d={wave} fill="none" stroke="var(--ink)" strokeWidth="2" />
        <line x1="10" x2={width - 10} y1={y(average)} y2={y(average)} stroke="var(--lamp)" strokeWidth="2.5" strokeDasharray="7 5" />
      </svg>
      <Figure label={t.meterShows} value={volts(average)} />
      <Slider label={t.low} value={low} least={0} most={2} step={0.05} shown={volts(low)} onValue={setLow} />
      <Slider label={t.high} value={high} least={2} most={12} step={0.1} shown={volts(high)} onValue={setHigh} />
      <Slider label={t.duty} value={duty} least={1} most={99} step={1} shown={`${duty} %`} onValue={setDuty} />
    </>
  );
}

/** A resistance in a feed, and what is left behind it: with a meter alone, with a lamp, with a relay while the starter pulls. */
const SITUATIONS = [
  { id: "meter", supply: 12, load: 1e7 },
  { id: "lamp", supply: 12, load: 48 },
  { id: "cranking", supply: 10, load: 70 },
] as const;
/** Where the slider's powers of ten begin and end, ohms. */
const [FROM_OHMS, TO_OHMS] = [0.1, 10_000];

function Hidden() {
  const [power, setPower] = useState(Math.log10(20));
  const series = 10 ** power;
  return (
    <>
      <Slider
        label={t.hidden}
        value={power}
        least={Math.log10(FROM_OHMS)}
        most={Math.log10(TO_OHMS)}
        step={0.01}
        shown={ohms(Number(series.toPrecision(2)))}
        onValue={setPower}
      />
      <dl className="m-0 grid gap-2" aria-live="polite">
        {SITUATIONS.map(({ id, supply, load }) => {
          const left = dividerVolts(supply, series, load).value;
          return (
            <div key={id} className="grid grid-cols-[1fr_auto] items-center gap-x-3">
              <dt className="text-sm text-soft">{t.situations[id]}</dt>
              <dd className="readout m-0">{volts(left)}</dd>
              <dd className="col-span-2 m-0 h-3 rounded-full bg-line">
                <span className="block h-full rounded-full bg-[var(--lamp)]" style={{ width: `${(100 * left) / 12}%` }} />
              </dd>
            </div>
          );
        })}
      </dl>
    </>
  );
}

/** What a divider card shows where no circuit is at hand. */
const USUAL: Circuit = { id: "usual", family: "thermistor-2w" };

/** The signal over temperature of the circuit at hand, or of a usual one. */
function DividerBlock({ circuit }: { circuit: Circuit | null }) {
  const curve = signalCurveOf(circuit ?? USUAL) ?? signalCurveOf(USUAL);
  const [place, setPlace] = useState(24);
  if (curve === null) return null;
  const here = curve.points[Math.min(place, curve.points.length - 1)];
  if (here === undefined) return null;
  return (
    <>
      <p className="m-0 text-sm text-soft">
        {t.dividerOf(circuit === null ? t.usualCircuit : (circuit.title ?? circuit.id), ohms(curve.pullOhms), volts(curve.supplyVolts))}
      </p>
      <Drawing
        points={curve.points.map(({ degC, volts: y }) => ({ x: degC, y }))}
        here={{ x: here.degC, y: here.volts }}
        along={`${t.temperature}, °C`}
        answer={`${t.signal}, V`}
      />
      <Slider label={t.temperature} value={place} least={0} most={curve.points.length - 1} step={1} shown={`${Math.round(here.degC)} °C`} onValue={setPlace} />
      <Figure label={t.sensorHas(ohms(Number(here.ohms.toPrecision(3))))} value={volts(here.volts)} />
    </>
  );
}

const STEPS = 200;

function Moved({ block }: { block: Extract<LiveBlock, { kind: "calculator" }> }) {
  const { move, given, answer } = block;
  const [value, setValue] = useState((move.from + move.to) / 2);
  const calculator = CALCULATORS.find(({ id }) => id === block.calculator);
  if (calculator === undefined) return null;
  const field = (id: string): CalculatorField | undefined => calculator.fields.find((one) => one.id === id);
  const [moved, asked] = [field(move.field), field(answer)];
  if (moved === undefined || asked === undefined) return null;
  const numbers = { ...given, [move.field]: value };
  const found = calculate(calculator, numbers);
  const middle = (move.from + move.to) / 2;
  const points = answerAlong(calculator, { ...given, [move.field]: middle }, move.field).filter(({ x }) => x >= move.from && x <= move.to);
  return (
    <>
      <p className="m-0 text-sm text-soft">
        {Object.entries(given)
          .map(([id, number]) => `${field(id)?.title ?? id} ${shownIn(number, field(id)?.unit ?? "", field(id)?.unit ?? "")}`)
          .join(", ")}
      </p>
      <Drawing
        points={points}
        here={found.ok ? { x: value, y: found.answer.value } : null}
        along={[moved.title, symbolOf(moved.unit)].filter(Boolean).join(", ")}
        answer={[asked.title, symbolOf(asked.unit)].filter(Boolean).join(", ")}
      />
      <Slider
        label={moved.title}
        value={value}
        least={move.from}
        most={move.to}
        step={(move.to - move.from) / STEPS}
        shown={shownIn(Number(value.toPrecision(3)), moved.unit, unitFor(value, moved.unit))}
        onValue={setValue}
      />
      {found.ok && <Figure label={asked.title} value={shownIn(found.answer.value, asked.unit, unitFor(found.answer.value, asked.unit))} />}
    </>
  );
}

const DRAWN = ["averaging", "hidden", "divider"] as const;

/** Whether a drawn block of this name exists. */
export function isDrawn(name: string): name is (typeof DRAWN)[number] {
  return (DRAWN as readonly string[]).includes(name);
}

function Drawn({ name, circuit }: { name: (typeof DRAWN)[number]; circuit: Circuit | null }) {
  switch (name) {
    case "averaging":
      return <Averaging />;
    case "hidden":
      return <Hidden />;
    case "divider":
      return <DividerBlock circuit={circuit} />;
  }
}

/** A live block of a card: the reader moves its numbers, the core computes. @param circuit the circuit at hand, where the card was opened from one */
export function Live({ block, circuit }: { block: LiveBlock; circuit: Circuit | null }) {
  const inside = block.kind === "calculator" ? <Moved block={block} /> : isDrawn(block.name) ? <Drawn name={block.name} circuit={circuit} /> : null;
  return <figure className="mx-0 my-3 max-w-xl rounded-xl border border-line bg-panel px-4 py-3">{inside}</figure>;
}
