import type { Figures } from "@fox-lamp/language";
import type { ApexOptions } from "apexcharts";
import { messages } from "../../messages";
import { Chart, PLAIN_CHART } from "../../ui/apex";

const t = messages.figures;

const LOOK: ApexOptions = {
  chart: PLAIN_CHART,
  grid: { borderColor: "var(--line)" },
  legend: { position: "top", horizontalAlign: "left", showForSingleSeries: true },
  dataLabels: { enabled: false },
  tooltip: { theme: "dark" },
};

/** Jobs opened and verdicts proven by month, and the minutes in the middle of that month's jobs where a clock ran. */
export default function FigureCharts({ months }: { months: Figures["months"] }) {
  const categories = months.map(({ month }) => month);
  const whole = { labels: { formatter: (value: number) => value.toFixed(0) }, min: 0, forceNiceScale: true };
  return (
    <div className="grid gap-5 md:grid-cols-2">
      <div className="h-64">
        <Chart
          type="bar"
          height="100%"
          options={{ ...LOOK, colors: ["var(--soft)", "var(--lamp)"], xaxis: { categories }, yaxis: { ...whole, title: { text: t.jobs } } }}
          series={[
            { name: t.opened, data: months.map(({ opened }) => opened) },
            { name: t.proven, data: months.map(({ proven }) => proven) },
          ]}
        />
      </div>
      <div className="h-64">
        <Chart
          type="line"
          height="100%"
          options={{
            ...LOOK,
            colors: ["var(--ember)"],
            stroke: { width: 3 },
            markers: { size: 5 },
            xaxis: { categories },
            yaxis: { ...whole, title: { text: messages.sheet.minutes } },
          }}
          series={[{ name: t.minutes, data: months.map(({ minutes }) => (minutes === null ? null : Math.round(minutes))) }]}
        />
      </div>
    </div>
  );
}
