import type { ApexOptions } from "apexcharts";
import Bundled from "react-apexcharts";

/** All channels in one moment. */
export interface Sample {
  readonly seconds: number;
  readonly values: readonly (number | null)[];
  /** The place that was being moved. */
  readonly place: string | null;
}

// The package is CommonJS: bundlers differ in whether its default export is the component or holds it.
const Chart = (Bundled as unknown as { default?: typeof Bundled }).default ?? Bundled;

/** Colours and dashes of the channels: told apart without colour as well. */
const COLOURS = ["var(--lamp)", "var(--ember)", "var(--calm)"];
const DASHES = [0, 6, 2];

/** All channels over time, with a line where a place began to be moved. */
export default function WatchChart({ samples, names }: { samples: readonly Sample[]; names: readonly string[] }) {
  const moved = samples.filter(({ place }, index) => place !== null && place !== samples[index - 1]?.place);
  const options: ApexOptions = {
    chart: { animations: { enabled: false }, toolbar: { show: false }, zoom: { enabled: false }, background: "transparent", foreColor: "var(--soft)" },
    colors: COLOURS,
    stroke: { width: 2.5, dashArray: DASHES, curve: "stepline" },
    grid: { borderColor: "var(--line)" },
    legend: { position: "top", horizontalAlign: "left" },
    tooltip: { enabled: false },
    xaxis: { type: "numeric", labels: { formatter: (value) => `${Number(value).toFixed(1)} s` }, tickAmount: 6 },
    yaxis: { decimalsInFloat: 1, labels: { formatter: (value) => `${value.toFixed(1)} V` } },
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
