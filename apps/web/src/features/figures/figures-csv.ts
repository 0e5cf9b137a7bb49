import type { FigureRow } from "@fox-lamp/language";
import { unitTitle } from "@fox-lamp/language";
import { messages } from "../../messages";

const t = messages.figures;

/** The jobs of the figures as rows of a table, the first one the columns' names: everything in words. */
export function figureRows(rows: readonly FigureRow[]): (string | number)[][] {
  return [
    [...t.columns],
    ...rows.map(({ number, vehicle, circuits, complaint, codes, stage, outcome, unit, minutes, readings, person, opened, touched }) => [
      number,
      opened,
      touched,
      vehicle,
      complaint,
      codes,
      circuits,
      messages.stages[stage],
      outcome === null ? "" : messages.check.outcome[outcome],
      unit === null ? "" : unitTitle(unit, "Sensor"),
      minutes ?? "",
      readings,
      person ?? "",
    ]),
  ];
}
