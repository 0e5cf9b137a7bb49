import type { Fit, ReadingOnCurve } from "@fox-lamp/core";
import type { ApexOptions } from "apexcharts";
import { messages } from "../messages";
import { Chart, PLAIN_CHART } from "../ui/apex";

const t = messages.curve;
const STEPS = 60;

interface Props {
  readonly points: readonly (readonly [number, number])[];
  readonly fit: Fit | null;
  /** Share of what is shown by which a sound one may differ. */
  readonly tolerance: number;
  readonly units: readonly [string, string];
  readonly readings: readonly ReadingOnCurve[];
  readonly height: number;
}

function tidy(value: number): string {
  return `${Number(value.toPrecision(3))}`;
}

/** The curve: its points, the law laid through them, how far a sound one may differ, and today's readings on it. */
export default function CurveChart({ points, fit, tolerance, units, readings, height }: Props) {
  const xs = points.map(([x]) => x);
  const [least, most] = [Math.min(...xs), Math.max(...xs)];
  const along = Array.from({ length: STEPS + 1 }, (_, step) => least + ((most - least) * step) / STEPS);
  const shown = points.map(([, y]) => y);
  // Ohms over degrees fall by hundreds: only then a scale of powers shows all of them.
  const powers = Math.min(...shown) > 0 && Math.max(...shown) / Math.min(...shown) > 30;
  const law = fit === null ? null : along.map((x) => ({ x, y: fit.at(x) }));
  const band = law === null || tolerance <= 0 ? [] : [-1, 1].map((side) => law.map(({ x, y }) => ({ x, y: y * (1 + side * tolerance) })));
  const off = new Set(fit?.off ?? []);
  const dots = (out: boolean) => points.filter((_, index) => off.has(index) === out).map(([x, y]) => ({ x, y }));
  const today = readings.flatMap(({ sensed, shown: y }) => {
    const x = sensed ?? fit?.from(y) ?? null;
    return x === null ? [] : [{ x, y }];
  });
  const series = [
    ...(law === null ? [] : [{ name: t.law, type: "line", data: law, colour: "var(--lamp)" }]),
    ...band.map((data, index) => ({ name: index === 0 ? t.lowest : t.highest, type: "line", data, colour: "var(--soft)" })),
    { name: t.points, type: "scatter", data: dots(false), colour: "var(--ink)" },
    ...(off.size > 0 ? [{ name: t.off, type: "scatter", data: dots(true), colour: "var(--ember)" }] : []),
    ...(today.length > 0 ? [{ name: t.today, type: "scatter", data: today, colour: "var(--lead-red)" }] : []),
  ];
  const isLine = series.map(({ type }) => type === "line");
  const options: ApexOptions = {
    chart: PLAIN_CHART,
    colors: series.map(({ colour }) => colour),
    stroke: { width: isLine.map((line) => (line ? 2 : 0)), dashArray: series.map(({ name }) => (name === t.lowest || name === t.highest ? 5 : 0)) },
    markers: { size: isLine.map((line) => (line ? 0 : 5)) },
    grid: { borderColor: "var(--line)" },
    legend: { position: "top", horizontalAlign: "left", showForSingleSeries: true },
    tooltip: { theme: "dark", shared: false, intersect: true },
    xaxis: { type: "numeric", title: { text: units[0] }, labels: { formatter: (value) => tidy(Number(value)) }, decimalsInFloat: 1 },
    yaxis: { logarithmic: powers, title: { text: units[1] }, labels: { formatter: tidy } },
  };
  return (
    <div style={{ height }}>
      <Chart type="line" height="100%" options={options} series={series.map(({ name, type, data }) => ({ name, type, data }))} />
    </div>
  );
}
