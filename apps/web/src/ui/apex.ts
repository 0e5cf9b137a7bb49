import type { ApexOptions } from "apexcharts";
import Bundled from "react-apexcharts";

/** A chart. The package is CommonJS: bundlers differ in whether its default export is the component or holds it. Large: pages load it when they draw one. */
export const Chart = (Bundled as unknown as { default?: typeof Bundled }).default ?? Bundled;

/** How every chart looks: still, without tools of its own, in the colours and letters of the page. */
export const PLAIN_CHART: NonNullable<ApexOptions["chart"]> = {
  animations: { enabled: false },
  toolbar: { show: false },
  zoom: { enabled: false },
  background: "transparent",
  fontFamily: "inherit",
  foreColor: "var(--soft)",
};
