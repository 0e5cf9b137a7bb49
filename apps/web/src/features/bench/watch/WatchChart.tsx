import { formatQuantity } from "@fox-lamp/core";
import type { Expect } from "@fox-lamp/language";
import type { ApexOptions } from "apexcharts";
import { Chart, PLAIN_CHART } from "../../../ui/apex";

/** All channels in one moment. */
export interface Sample {
  readonly seconds: number;
  readonly values: readonly (number | null)[];
  /** The place that was being moved. */
  readonly place: string | null;
}

/** Colours and dashes of the channels: told apart without colour as well. */
const COLOURS = ["var(--lamp)", "var(--ember)", "var(--calm)"];
const DASHES = [0, 6, 2];

/** The axis reaches from the lowest to the highest of windows and values, with a little air; never flat. */
function reachOf(samples: readonly Sample[], windows: readonly (Pick<Expect, "low" | "high"> | null)[]): { readonly min: number; readonly max: number } {
  const ends = [...windows.flatMap((window) => [window?.low, window?.high]), ...samples.flatMap(({ values }) => [...values])].filter(
    (volts): volts is number => typeof volts === "number",
  );
  if (ends.length === 0) return { min: 0, max: 6 };
  const [low, high] = [Math.min(...ends), Math.max(...ends)];
  const air = Math.max(0.12 * (high - low), LEAST_AIR_VOLTS);
  return { min: low - air, max: high + air };
}

const LEAST_AIR_VOLTS = 0.005;

interface Props {
  readonly samples: readonly Sample[];
  readonly names: readonly string[];
  readonly windows: readonly (Pick<Expect, "low" | "high"> | null)[];
}

/** All channels over time, with a line where a place began to be moved. */
export default function WatchChart({ samples, names, windows }: Props) {
  const reach = reachOf(samples, windows);
  const moved = samples.filter(({ place }, index) => place !== null && place !== samples[index - 1]?.place);
  const options: ApexOptions = {
    chart: PLAIN_CHART,
    colors: COLOURS,
    stroke: { width: 2.5, dashArray: DASHES, curve: "stepline" },
    grid: { borderColor: "var(--line)" },
    legend: { position: "top", horizontalAlign: "left" },
    tooltip: { enabled: false },
    xaxis: { type: "numeric", labels: { rotate: 0, formatter: (value) => `${Number(value).toFixed(1)} s` }, tickAmount: 6 },
    yaxis: { ...reach, tickAmount: 4, labels: { formatter: (value) => formatQuantity(value, "V") } },
    annotations: {
      xaxis: moved.map(({ seconds, place }) => ({
        x: seconds,
        borderColor: "var(--soft)",
        label: { text: place ?? "", style: { background: "var(--panel)", color: "var(--ink)" } },
      })),
    },
  };
  const series = names.map((name, index) => ({ name, data: samples.map(({ seconds, values }) => ({ x: seconds, y: values[index] ?? null })) }));
  return <Chart type="line" height="100%" options={options} series={series} />;
}
