import type { CaptureFile } from "@fox-lamp/language";
import type { ApexOptions } from "apexcharts";
import { Chart, PLAIN_CHART } from "../../ui/apex";

type Speed = NonNullable<CaptureFile["channels"][number]["speed"]>;

/** Engine speed over a capture, from the teeth of its wheel. */
export default function SpeedChart({ name, speed }: { name: string; speed: Speed }) {
  const options: ApexOptions = {
    chart: PLAIN_CHART,
    colors: ["var(--lamp)"],
    stroke: { width: 2, curve: "straight" },
    grid: { borderColor: "var(--line)" },
    tooltip: { theme: "dark", x: { formatter: (value) => `${Number(value).toFixed(3)} s` } },
    xaxis: { type: "numeric", tickAmount: 6, labels: { formatter: (value) => `${Number(value).toFixed(1)} s` } },
    yaxis: { labels: { formatter: (value: number) => `${Math.round(value)}` }, title: { text: "rev/min" } },
  };
  return <Chart type="line" height="100%" options={options} series={[{ name, data: speed.t.map((x, index) => ({ x, y: speed.rpm[index] ?? 0 })) }]} />;
}
