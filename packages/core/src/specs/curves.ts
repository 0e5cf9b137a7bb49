import type { SpecCurve } from "@fox-lamp/language";
import { barometricKPa } from "../arithmetic";
import type { CircuitModel } from "../circuit";

/** Why a curve cannot be; a stable code and a sentence. */
export interface CurveProblem {
  readonly code: "twice" | "not-one-way" | "negative" | "outside-supply" | "unit-slip" | "against-atmosphere" | "range";
  readonly reason: string;
}

type Kind = SpecCurve["kind"];

/** What each kind senses can be: least and greatest, and in which unit. */
const SENSED: Readonly<Record<Kind, readonly [number, number, string]>> = {
  "temperature-ohms": [-80, 400, "degC"],
  "pressure-volts": [-110, 300_000, "kPa"],
  "pressure-hertz": [-110, 300_000, "kPa"],
  "altitude-volts": [-500, 11_000, "m"],
  "altitude-hertz": [-500, 11_000, "m"],
  "flow-volts": [0, 2000, "g/s"],
  "flow-hertz": [0, 2000, "g/s"],
  "position-volts": [-5, 105, "%"],
};
/** A supply may lie this much above its nominal, volts. */
const OVER_VOLTS = 0.15;
/** An altitude chart may leave the standard atmosphere by this share, over the points it has. */
const ATMOSPHERE_SHARE = 0.04;
/** Thermistors of this trade lie between these at room temperature, ohms: a thousandth or a thousand times of it is another unit. */
const THERMISTOR_OHMS: readonly [number, number] = [50, 100_000];

/** Whether a row rises or falls all the way, to the right. */
function way(points: SpecCurve["points"]): 1 | -1 | 0 {
  const steps = points.slice(1).map(([, y], index) => Math.sign(y - (points[index]?.[1] ?? 0)));
  if (steps.every((step) => step > 0)) return 1;
  return steps.every((step) => step < 0) ? -1 : 0;
}

function atmosphere(points: SpecCurve["points"]): CurveProblem[] {
  // What a manifold sensor shows over height is a line over the air's pressure: two points make it, the others have to lie on it.
  const [first, last] = [points[0], points.at(-1)] as [readonly [number, number], readonly [number, number]];
  const [p0, p1] = [barometricKPa(first[0]), barometricKPa(last[0])];
  const slope = (last[1] - first[1]) / (p1 - p0);
  const off = points.find(
    ([metres, shown]) => Math.abs(first[1] + slope * (barometricKPa(metres) - p0) - shown) > ATMOSPHERE_SHARE * Math.max(Math.abs(shown), 0.1),
  );
  if (off === undefined) return [];
  const wanted = first[1] + slope * (barometricKPa(off[0]) - p0);
  return [
    {
      code: "against-atmosphere",
      reason: `at ${off[0]} m the standard atmosphere and the chart's own ends make ${Number(wanted.toPrecision(4))}, not ${off[1]}`,
    },
  ];
}

/** What is wrong with a curve, by itself and by what feeds its circuit; none for one that can be. */
export function problemsOfCurve(circuit: CircuitModel, { kind, points: given }: Pick<SpecCurve, "kind" | "points">): CurveProblem[] {
  const points = [...given].sort((a, b) => a[0] - b[0]);
  const [least, most, unit] = SENSED[kind];
  const twice = points.find(([x], index) => index > 0 && points[index - 1]?.[0] === x);
  if (twice !== undefined) return [{ code: "twice", reason: `${twice[0]} ${unit} stands in it twice` }];
  const strange = points.find(([x]) => x < least || x > most);
  if (strange !== undefined) return [{ code: "range", reason: `${strange[0]} ${unit} is nothing this sensor meets; expected ${least} to ${most}` }];
  const [, shows] = kind.split("-");
  const negative = points.find(([, y]) => y < 0);
  if (negative !== undefined && shows !== "volts") return [{ code: "negative", reason: `${negative[1]} at ${negative[0]} ${unit} cannot be` }];
  if (shows === "volts") {
    const supply = circuit.built.fullScaleVolts;
    const outside = points.find(([, y]) => y < -OVER_VOLTS || y > supply + OVER_VOLTS);
    if (outside !== undefined) return [{ code: "outside-supply", reason: `${outside[1]} V at ${outside[0]} ${unit} lies outside the supply of ${supply} V` }];
  }
  if (way(points) === 0) return [{ code: "not-one-way", reason: "it turns round: one value would mean two" }];
  if (kind === "temperature-ohms") {
    const middle = points.reduce((near, point) => (Math.abs(point[0] - 25) < Math.abs(near[0] - 25) ? point : near));
    const [low, high] = THERMISTOR_OHMS;
    if (middle[0] > 0 && middle[0] < 50 && (middle[1] < low || middle[1] > high)) {
      return [
        {
          code: "unit-slip",
          reason: `${middle[1]} ohm at ${middle[0]} degC is no sensor's: the numbers look like ${middle[1] < low ? "kilo-ohm" : "milli-ohm"}`,
        },
      ];
    }
  }
  return kind.startsWith("altitude") ? atmosphere(points) : [];
}
