import type { Recording } from "@fox-lamp/language";
import type { ApexOptions } from "apexcharts";
import { Chart } from "../../../ui/apex";
import { figure } from "../shared/codes-text";

const COLOURS = ["var(--lamp)", "var(--calm)", "var(--ember)", "var(--ink)", "var(--soft)", "var(--lead-red)"];
const DASHES = [0, 6, 2, 10, 4, 12];

/** Chosen channels of a recording together; each unit has an axis of its own. */
export default function RecordingChart({ recording, chosen }: { recording: Recording; chosen: readonly string[] }) {
  const channels = recording.channels.filter(({ name }) => chosen.includes(name));
  const units = [...new Set(channels.map(({ unit }) => unit))];
  const options: ApexOptions = {
    chart: { animations: { enabled: false }, toolbar: { show: false }, zoom: { enabled: true }, background: "transparent", foreColor: "var(--soft)" },
    colors: COLOURS,
    stroke: { width: 2, dashArray: DASHES, curve: "stepline" },
    grid: { borderColor: "var(--line)" },
    legend: { position: "top", horizontalAlign: "left", showForSingleSeries: true },
    tooltip: { theme: "dark", x: { formatter: (value) => `${Number(value).toFixed(1)} s` } },
    xaxis: { type: "numeric", tickAmount: 8, labels: { formatter: (value) => `${Number(value).toFixed(0)} s` } },
    yaxis: channels.map(({ name, unit }, index) => {
      const first = channels.findIndex((channel) => channel.unit === unit);
      return {
        seriesName: channels[first]?.name ?? name,
        show: first === index,
        opposite: units.indexOf(unit) % 2 === 1,
        labels: { formatter: (value: number) => figure(value, unit) },
      };
    }),
  };
  const series = channels.map(({ name, values }) => ({ name, data: values.map((y, index) => ({ x: recording.seconds[index] ?? 0, y })) }));
  return <Chart type="line" height="100%" options={options} series={series} />;
}
