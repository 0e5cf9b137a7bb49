import Bundled from "react-apexcharts";

/** A chart. The package is CommonJS: bundlers differ in whether its default export is the component or holds it. Large: pages load it when they draw one. */
export const Chart = (Bundled as unknown as { default?: typeof Bundled }).default ?? Bundled;
