import { formatPercent, formatQuantity, type SceneVolts } from "@fox-lamp/core";
import { type NextTest, pinWord } from "@fox-lamp/language";
import { type DrawnRow, type Layout, letters } from "./layout";
import { PERCENT_FROM, type Standing } from "./parts";

/** How far volts and colour stand beside their places on a wire, pixels. */
interface Beside {
  readonly volts: number;
  readonly label: number;
}
export const NOT_BESIDE: Beside = { volts: 0, label: 0 };

/** On a phone the words on the wires make room for leads that come down beside them, and for a part added at the sensor. */
export function besideOf(test: NextTest | null, { rows }: Layout): Beside {
  const at = (place: RegExp, ...points: (string | null)[]): boolean => points.some((point) => point !== null && place.test(point));
  if (test === null) return NOT_BESIDE;
  if (rows.some(({ pin }) => pin.places.length > 2)) return at(/@(?!module$|sensor$|part$)/u, test.red, test.black) ? { volts: 14, label: -6 } : NOT_BESIDE;
  if ((test.setup.add ?? []).some(({ from, to }) => at(/@sensor$/u, from) && at(/@sensor$/u, to))) return { volts: -42, label: -42 };
  return at(/@sensor$/u, test.red, test.black) ? { volts: -7, label: -7 } : NOT_BESIDE;
}

/** So far names make room for leads on their terminals, pixels. */
export const ASIDE = 9;

/** Letters that fit between a phone's contacts; of a longer label only the standing is shown. */
const NARROW_LETTERS = 12;

/** A row's pin names at both boxes, its healthy or measured volts, colour and standing. */
export function RowLabels({
  row,
  layout,
  standing,
  healthy,
  measured,
  beside,
  aside,
}: {
  /** How far names in the part's box make room for leads on its terminals, pixels. */
  aside: number;
  row: DrawnRow;
  layout: Layout;
  standing: Standing;
  healthy: SceneVolts | undefined;
  measured: ReadonlyMap<string, number>;
  beside: Beside;
}) {
  const { pin } = row;
  const letter = letters(layout.narrow);
  const far = pin.places.at(-1) ?? "sensor";
  const read = measured.get(`${pin.pin}@${far}`) ?? measured.get(`${pin.pin}@module`);
  const volts = healthy?.[`${pin.pin}@${far}`];
  const car = pin.role === "car-ground";
  const word = car ? `${pin.pin.split(":")[1] ?? ""} ground` : pinWord(pin.pin);
  const shown = read === undefined ? (volts === undefined ? "" : formatQuantity(volts, "V")) : `read ${formatQuantity(read, "V")}`;
  const state =
    standing.probability > PERCENT_FROM
      ? formatPercent(standing.probability)
      : standing.cleared && (!layout.narrow || (pin.colour ?? "") === "")
        ? "cleared"
        : "";
  const label = [car ? word : (pin.colour ?? ""), pin.joins?.at === "module" ? "shared" : "", state].filter((text) => text !== "").join(" ");
  return (
    <g pointerEvents="none">
      {pin.origin === "module" && (
        <text x={layout.module.x + layout.module.width - 8} y={row.y + 4} textAnchor="end" fontSize={letter} fill="var(--soft)">
          {layout.narrow ? pin.pin : word}
        </text>
      )}
      {(pin.reachesPart || car) && (
        <text x={layout.sensor.x + 8 + aside} y={row.y + 4} fontSize={letter} fill="var(--soft)">
          {pin.cavity ? `${pin.cavity} ` : ""}
          {layout.narrow && !car ? pin.pin : car ? (pin.pin.split(":")[1] ?? "") : word}
        </text>
      )}
      <text
        x={row.volts.x + beside.volts}
        y={row.volts.y}
        textAnchor="middle"
        fontSize={letter}
        className="readout"
        fill={read === undefined ? "var(--soft)" : "var(--ink)"}
        fontWeight={read === undefined ? 400 : 700}
      >
        {shown}
      </text>
      <text
        x={row.label.x + beside.label}
        y={row.label.y + 2}
        textAnchor="middle"
        fontSize={letter}
        fill={standing.probability > PERCENT_FROM ? "var(--ember)" : "var(--soft)"}
      >
        {layout.narrow && state !== "" && label.length > NARROW_LETTERS ? state : label}
      </text>
    </g>
  );
}
