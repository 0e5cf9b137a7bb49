import { type CurveSlot, pointsFor, readingsOnCurve } from "@fox-lamp/core";
import type { Circuit, Reading, SpecCurve } from "@fox-lamp/language";
import { useShelfQuery, useShopQuery } from "../../app/api";
import { CurveEditor } from "../../curve/CurveEditor";
import { messages } from "../../messages";
import { Button, TextField } from "../../ui/form";
import { sourceName } from "../../ui/source";
import { toleranceTyped } from "./parameters";

const t = messages.shelfLimits;

/** What the curve of a sheet is drawn with: the shelf's curves for this vehicle, today's readings. */
export interface CurveField {
  readonly vehicle: string;
  readonly family: string;
  readonly circuit: Circuit | null;
  readonly readings: readonly (Reading & { readonly id: string })[];
  /** A curve from the shelf brings its source. */
  readonly onSource: (source: string) => void;
  /** How far it may be off, percent of what it shows, as typed. */
  readonly tolerance: string;
  readonly toleranceProblem: string | undefined;
  readonly onTolerance: (text: string) => void;
}

interface Props extends CurveField {
  readonly slot: CurveSlot;
  readonly label: string;
  readonly text: string;
  readonly onText: (text: string) => void;
  readonly usual: string;
  readonly error: string | undefined;
}

/** The curve of a circuit: edited as a table, or taken from the shop's shelf. */
export function SheetCurve({ slot, label, text, onText, usual, error, vehicle, family, circuit, readings, onSource, ...props }: Props) {
  const { tolerance, toleranceProblem, onTolerance } = props;
  const { data } = useShelfQuery({ vehicle, kind: "curve", family });
  const { data: shop } = useShopQuery();
  const curves = (data?.items ?? []).flatMap(({ id, item, problems }) => {
    if (item.kind !== "curve" || problems.length > 0) return [];
    const points = pointsFor(slot, item.record, shop?.settings.seaLevelKPa);
    return points === null ? [] : [{ id, curve: item.record, points }];
  });
  const take = (curve: SpecCurve, points: SpecCurve["points"]): void => {
    onText(points.map(([x, y]) => `${Number(x.toPrecision(6))}, ${y}`).join("\n"));
    onSource(sourceName(curve.source));
    onTolerance(curve.tolerance === undefined ? "" : `${Number((100 * curve.tolerance).toPrecision(6))}`);
  };
  return (
    <div className="grid gap-2 sm:col-span-2">
      {curves.length > 0 && (
        <div className="flex flex-wrap items-center gap-2">
          <span className="text-sm text-soft">{t.curves}</span>
          {curves.map(({ id, curve, points }) => (
            <Button key={id} onClick={() => take(curve, points)}>
              {t.curve(curve.id ?? label, sourceName(curve.source))}
            </Button>
          ))}
        </div>
      )}
      <CurveEditor
        label={label}
        kind={slot.kind}
        text={text}
        onText={onText}
        usual={usual}
        tolerance={toleranceTyped(tolerance) ?? 0}
        readings={circuit === null ? [] : readingsOnCurve(circuit, readings)}
        error={error}
      />
      {text.trim() !== "" && (
        <TextField
          label={messages.specs.columns["tolerance"] ?? ""}
          hint={messages.sheet.toleranceHint}
          value={tolerance}
          error={toleranceProblem}
          inputMode="decimal"
          onChange={(event) => onTolerance(event.target.value)}
          className="readout"
        />
      )}
    </div>
  );
}
