import { bestLaw, type CircuitView, fitCurve, unitsOfCurve, viewsOf } from "@fox-lamp/core";
import type { SpecCurve, StoredSpec } from "@fox-lamp/language";
import { ChevronDown, TriangleAlert } from "lucide-react";
import { lazy, Suspense, useMemo } from "react";
import { titleOf } from "../../../circuit/wording";
import { messages } from "../../../messages";
import { AskFirst } from "../../../ui/AskFirst";
import { whenText } from "../../../ui/dates";
import { unitsAsWritten } from "../../../ui/display";
import { Button } from "../../../ui/form";
import { Conflicts } from "./Conflicts";
import { sourceText, specTitle, specValue, vehiclesText } from "./words";

const t = messages.specs;
const CurveChart = lazy(() => import("../../../curve/CurveChart"));
const MOST_NAMED = 8;

/** The usual circuit of a family, for the names of its units. */
function viewsFor(family: string): readonly CircuitView[] {
  return viewsOf([{ id: "spec", family }]);
}

/** Faults a limit lets pass, by name. */
function Passes({ family, passes }: { family: string; passes: readonly string[] }) {
  const named = useMemo(() => {
    const views = viewsFor(family);
    return [...new Set(passes.map((fault) => titleOf(fault.split("/").slice(0, 2).join("/"), views)))];
  }, [family, passes]);
  if (named.length === 0) return null;
  return (
    <p className="m-0 mt-1.5 text-sm text-soft">
      {t.passes} {named.slice(0, MOST_NAMED).join(", ")}
      {named.length > MOST_NAMED && ` ${t.andMore(named.length - MOST_NAMED)}`}
    </p>
  );
}

function CurveOf({ curve }: { curve: SpecCurve }) {
  const fit = useMemo(() => fitCurve(curve.kind, bestLaw(curve.kind, curve.points), curve.points), [curve]);
  const units = unitsOfCurve(curve.kind).map(unitsAsWritten) as [string, string];
  return (
    <Suspense fallback={<div className="h-60" />}>
      <CurveChart points={curve.points} fit={fit} tolerance={curve.tolerance ?? 0} units={units} readings={[]} height={240} />
    </Suspense>
  );
}

interface Props {
  readonly spec: StoredSpec;
  readonly open: boolean;
  readonly onOpen: () => void;
  readonly mayChange: boolean;
  readonly onEdit: () => void;
  readonly onRemove: () => void;
}

/** One thing on the shelf: what it is of, what it says, from where; opened, what physics and its neighbours say of it. */
export function SpecRow({ spec, open, onOpen, mayChange, onEdit, onRemove }: Props) {
  const { item, problems, passes, by, at } = spec;
  const { confidence, date } = item.record;
  return (
    <li className="border-b border-line">
      <button
        type="button"
        aria-expanded={open}
        onClick={onOpen}
        className="grid w-full grid-cols-[1fr_auto_1.25rem] items-center gap-x-3 py-2 text-left text-ink"
      >
        <span className="min-w-0">
          <span className="block [overflow-wrap:anywhere]">{specTitle(item)}</span>
          <span className="block text-sm text-soft">
            {vehiclesText(item)} · {sourceText(item)}
          </span>
        </span>
        <span className="readout max-w-36 text-right font-bold sm:max-w-none">{specValue(item)}</span>
        <ChevronDown size={18} aria-hidden="true" className={`text-soft ${open ? "rotate-180" : ""}`} />
      </button>
      {problems.map(({ code, reason }) => (
        <p key={code} className="m-0 mb-2 flex gap-2 rounded-lg bg-caution px-3 py-2 text-sm">
          <TriangleAlert size={17} className="mt-0.5 shrink-0 text-lamp" aria-hidden="true" />
          {t.cannotBe(unitsAsWritten(reason))}
        </p>
      ))}
      {open && (
        <div className="pb-3">
          <Conflicts spec={spec} />
          {item.kind === "curve" && <CurveOf curve={item.record} />}
          <Passes family={item.record.family} passes={passes} />
          <p className="m-0 mt-1.5 text-sm text-soft">
            {t.sources[item.record.source.kind]}: {sourceText(item)}
            {date === undefined ? "" : `, ${date}`}. {t.entered(by, whenText(at))}
            {confidence === undefined ? "" : ` ${t.confidence(Math.round(100 * confidence))}`}
          </p>
          {mayChange && (
            <div className="mt-2 flex gap-2">
              <Button onClick={onEdit}>{t.edit}</Button>
              <AskFirst label={t.remove} title={t.removeTitle} lead={t.removeLead(specTitle(item))} weight="quiet" onYes={onRemove} />
            </div>
          )}
        </div>
      )}
    </li>
  );
}
