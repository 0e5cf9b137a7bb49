import { familyNamed, formatWindow, unitsOfCurve } from "@fox-lamp/core";
import { knownValue, type ShelfRecord, type SpecLimit, type Truth } from "@fox-lamp/language";
import { readingTitle, setupText } from "../../../circuit/wording";
import { messages } from "../../../messages";
import { unitsAsWritten } from "../../../ui/display";
import { sourceName } from "../../../ui/source";

const t = messages.specs;

/** A source with its edition: "Workshop book 3". */
export function sourceText({ record: { source } }: ShelfRecord): string {
  return sourceName(source);
}

/** Which vehicles a record is of. */
export function vehiclesText({ record: { vehicle } }: ShelfRecord): string {
  const { make, model, engine, years } = vehicle;
  const span = years === undefined ? "" : years[0] === years[1] ? `${years[0]}` : years.join("-");
  return [make, model, engine, span].filter(Boolean).join(" ") || t.anyVehicle;
}

/** What is known beside the state: ", at 20 °C"; positions and levels stand in the state's own words. */
function truthText({ temperature, pressure }: Truth = {}): string {
  const at = (known: Truth["temperature"], unit: string): string => (known === undefined ? "" : `, ${t.at} ${knownValue(known)} ${unit}`);
  return `${at(temperature, "°C")}${at(pressure, "kPa")}`;
}

/** Under which conditions of the engine and the air it holds: ", wide open, 0 to 600 m above the sea". */
function conditionsText({ load, altitude }: Pick<SpecLimit, "load" | "altitude">): string {
  const parts = [load === undefined ? "" : t.loads[load], altitude === undefined ? "" : t.height(...altitude)];
  return parts
    .filter(Boolean)
    .map((part) => `, ${part}`)
    .join("");
}

/** What a record is of, in the trade's words. */
export function specTitle({ kind, record }: ShelfRecord): string {
  const family = familyNamed(record.family)?.title ?? record.family;
  switch (kind) {
    case "limit":
    case "known": {
      const { meter, red, black, setup } = record;
      const state = setup === undefined ? "" : `, ${setupText(setup, [])}`;
      const what = `${family}: ${readingTitle({ meter, red, black: black ?? "bat-", value: 0 })}${state}${truthText(setup?.truth)}${conditionsText(record)}`;
      return kind === "known" ? t.knownGood(what) : what;
    }
    case "curve":
      return `${family}: ${record.id ?? t.kinds[record.kind]}`;
    case "variant":
      return `${family}: ${record.part}`;
  }
}

const figure = (value: number): string => `${Number(value.toPrecision(5))}`;

/** What a record says, in short. */
export function specValue({ kind, record }: ShelfRecord): string {
  switch (kind) {
    case "limit": {
      const { low, high, nominal, unit } = record;
      const written = unitsAsWritten(unit);
      if (low === undefined && high === undefined) return t.about(`${figure(nominal ?? 0)} ${written}`);
      return unitsAsWritten(formatWindow(low ?? null, high ?? null, unit));
    }
    case "known":
      return `${figure(record.value)} ${unitsAsWritten(record.unit)}`;
    case "curve": {
      const [sensed, shown] = unitsOfCurve(record.kind).map(unitsAsWritten);
      const sorted = [...record.points].sort((a, b) => a[0] - b[0]);
      const end = ([x, y]: readonly [number, number] = [0, 0]): string => `${figure(y)} ${shown} ${t.at} ${figure(x)} ${sensed}`;
      return `${end(sorted[0])} ${t.to} ${end(sorted.at(-1))}`;
    }
    case "variant": {
      const { ohms, degC, line, teeth, connector, seal, torque } = record;
      const ends = [line?.[0], line?.at(-1)].flatMap((point) => (point === undefined ? [] : [`${figure(point[1])} ${t.at} ${figure(point[0])}`]));
      const resistance = ohms === undefined ? "" : `${formatWindow(ohms[0], ohms[1], "ohm")}${degC === undefined ? "" : ` ${t.at} ${degC} °C`}`;
      return [
        resistance,
        ends.length === 2 ? t.lineOf(ends[0] as string, ends[1] as string) : "",
        teeth === undefined ? "" : t.teeth(teeth),
        connector,
        seal,
        torque,
      ]
        .filter(Boolean)
        .join(", ");
    }
  }
}
