import { bestLaw, type Fit, type FitLaw, fitCurve, lawsOf, type ReadingOnCurve, unitsOfCurve } from "@fox-lamp/core";
import { parseShorthand, type SpecCurve } from "@fox-lamp/language";
import { X } from "lucide-react";
import { type ClipboardEvent, lazy, Suspense, useMemo, useState } from "react";
import { messages } from "../messages";
import { unitsAsWritten } from "../ui/display";
import { FilePick } from "../ui/FilePick";
import { Button, Select, TextField } from "../ui/form";
import { isTable, type PointRow, rowsOf, rowsPasted, textOf, withPasted } from "./rows";

const t = messages.curve;
const CurveChart = lazy(() => import("./CurveChart"));
const HEIGHT = 260;

function numberOf(text: string): number | null {
  const parsed = parseShorthand(text);
  return parsed.ok && typeof parsed.value === "number" ? parsed.value : null;
}

const percent = (share: number): string => `${Number((100 * share).toPrecision(2))} %`;
const figure = (value: number): string => `${Number(value.toPrecision(4))}`;

interface Props {
  readonly label: string;
  readonly kind: SpecCurve["kind"];
  /** Points as typed, one a line. */
  readonly text: string;
  readonly onText: (text: string) => void;
  /** The usual points, shown while none are typed. */
  readonly usual?: string | undefined;
  /** Share of what is shown by which a sound one may differ. */
  readonly tolerance?: number | undefined;
  readonly readings?: readonly ReadingOnCurve[] | undefined;
  readonly error?: string | undefined;
}

/** One of the two numbers of a point. */
function Cell({
  label,
  value,
  bad,
  onChange,
  onPaste,
}: {
  label: string;
  value: string;
  bad: boolean;
  onChange: (text: string) => void;
  onPaste: (event: ClipboardEvent<HTMLInputElement>) => void;
}) {
  return (
    <input
      aria-label={label}
      aria-invalid={bad || undefined}
      inputMode="text"
      autoComplete="off"
      value={value}
      onChange={(event) => onChange(event.target.value)}
      onPaste={onPaste}
      className="readout min-h-11 w-full min-w-0 rounded-lg border border-edge bg-well px-3 text-ink aria-invalid:border-ember"
    />
  );
}

/** What the law says: its numbers, how far the points lie from it, which do not fit; and both directions to read. */
function FitWords({ fit, rows, units }: { fit: Fit; rows: readonly PointRow[]; units: readonly [string, string] }) {
  const [sensed, setSensed] = useState("");
  const [shown, setShown] = useState("");
  const [x, y] = [numberOf(sensed), numberOf(shown)];
  const back = y === null ? null : fit.from(y);
  const numbers = Object.entries(fit.numbers)
    .map(([name, value]) => `${t.number[name] ?? name} ${figure(value)}`)
    .join(", ");
  return (
    <>
      <p className="m-0 mt-1 text-sm text-soft">
        {fit.law === "spline" ? t.meets : t.error(percent(fit.rms), percent(fit.worst))}
        {numbers === "" ? "" : ` ${numbers}.`}
      </p>
      {fit.off.map((index) => (
        <p key={index} role="status" className="m-0 mt-1 text-sm text-ember">
          {t.offRow(index + 1, (rows[index] ?? ["", ""]).join(", "), percent(Math.abs(fit.errors[index] ?? 0)))}
        </p>
      ))}
      <div className="mt-2 grid grid-cols-2 gap-3">
        <TextField
          label={t.at(units[0])}
          value={sensed}
          inputMode="decimal"
          onChange={(event) => setSensed(event.target.value)}
          hint={x === null ? undefined : t.is(`${figure(fit.at(x))} ${units[1]}`)}
        />
        <TextField
          label={t.at(units[1])}
          value={shown}
          inputMode="decimal"
          onChange={(event) => setShown(event.target.value)}
          hint={y === null ? undefined : back === null ? t.outside : t.is(`${figure(back)} ${units[0]}`)}
        />
      </div>
    </>
  );
}

/** A curve as a table: typed, pasted from a spreadsheet or opened from a file; drawn, with a law laid through it and read in both directions. */
export function CurveEditor({ label, kind, text, onText, usual = "", tolerance = 0, readings = [], error }: Props) {
  const [typed, setTyped] = useState<readonly PointRow[]>(() => rowsOf(text));
  const [chosen, setLaw] = useState<FitLaw | null>(null);
  // What came from outside (a shelf, another circuit) replaces what was typed.
  if (textOf(typed) !== textOf(rowsOf(text))) setTyped(rowsOf(text));
  const rows: readonly PointRow[] = [...typed, ["", ""]];
  // A row is its place: rows have no other name, and are not moved about.
  const numbered = rows.map((row, index) => ({ row, index }));
  const units = unitsOfCurve(kind).map(unitsAsWritten) as [string, string];
  const laws = lawsOf(kind);
  const drawn = typed.length > 0 ? typed : rowsOf(usual);
  const points = useMemo(
    () =>
      drawn.flatMap(([x, y]): [number, number][] => {
        const point = [numberOf(x), numberOf(y)] as const;
        return point[0] === null || point[1] === null ? [] : [[point[0], point[1]]];
      }),
    [drawn],
  );
  const law = useMemo(() => (chosen !== null && lawsOf(kind).includes(chosen) ? chosen : bestLaw(kind, points)), [chosen, kind, points]);
  const fit = useMemo(() => fitCurve(kind, law, points), [kind, law, points]);
  const change = (next: readonly PointRow[]): void => {
    const kept = next.filter(([x, y]) => x !== "" || y !== "");
    setTyped(kept);
    onText(textOf(kept));
  };
  const set = (index: number, place: 0 | 1, value: string): void =>
    change(rows.map((row, at): PointRow => (at !== index ? row : place === 0 ? [value, row[1]] : [row[0], value])));
  const paste = (index: number, event: ClipboardEvent<HTMLInputElement>): void => {
    const piece = event.clipboardData.getData("text");
    if (!isTable(piece)) return;
    event.preventDefault();
    change(withPasted(typed, Math.min(index, typed.length), rowsPasted(piece)));
  };
  const smooth = (): void => {
    if (fit === null) return;
    change(points.map(([x]): PointRow => [`${x}`, figure(fit.at(x))]));
  };
  return (
    <fieldset className="m-0 grid min-w-0 content-start gap-x-5 gap-y-2 border-0 p-0 sm:grid-cols-[17rem_minmax(0,1fr)]">
      <legend className="mb-1 p-0 text-sm text-soft">{label}</legend>
      <div className="grid content-start gap-2">
        <div className="grid grid-cols-[1fr_1fr_2.75rem] gap-2">
          <span className="text-sm text-soft">{units[0]}</span>
          <span className="text-sm text-soft">{units[1]}</span>
          <span />
          {numbered.map(({ row, index }) => (
            <div key={index} className="contents">
              {([0, 1] as const).map((place) => (
                <Cell
                  key={place}
                  label={t.cell(index + 1, units[place])}
                  value={row[place]}
                  bad={row[place] !== "" && numberOf(row[place]) === null}
                  onChange={(value) => set(index, place, value)}
                  onPaste={(event) => paste(index, event)}
                />
              ))}
              {index < typed.length ? (
                <button
                  type="button"
                  aria-label={t.without(index + 1)}
                  className="grid min-h-11 place-items-center rounded-lg text-soft hover:text-ink"
                  onClick={() => change(typed.filter((_, at) => at !== index))}
                >
                  <X size={18} aria-hidden="true" />
                </button>
              ) : (
                <span />
              )}
            </div>
          ))}
        </div>
        {error !== undefined && (
          <p role="alert" className="m-0 text-sm text-ember">
            {error}
          </p>
        )}
        {typed.length === 0 && usual !== "" && <p className="m-0 text-sm text-soft">{t.usual}</p>}
      </div>
      <div className="grid min-w-0 content-start gap-2">
        <div className="flex flex-wrap items-end gap-2">
          <div className="min-w-44 flex-1">
            <Select label={t.through} value={law} options={laws.map((one) => [one, t.laws[one]] as const)} onChange={setLaw} />
          </div>
          <Button disabled={fit === null || law === "spline" || typed.length === 0} onClick={smooth}>
            {t.smooth}
          </Button>
          <FilePick label={t.open} accept=".csv,.txt,text/csv,text/plain" onFile={(file) => void file.text().then((content) => change(rowsPasted(content)))}>
            {t.open}
          </FilePick>
        </div>
        {points.length >= 2 && (
          <Suspense fallback={<div style={{ height: HEIGHT }} />}>
            <CurveChart points={points} fit={fit} tolerance={tolerance} units={units} readings={readings} height={HEIGHT} />
          </Suspense>
        )}
        {fit === null ? points.length >= 2 && <p className="m-0 text-sm text-soft">{t.noFit}</p> : <FitWords fit={fit} rows={drawn} units={units} />}
      </div>
    </fieldset>
  );
}
