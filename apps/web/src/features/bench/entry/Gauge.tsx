import { type Expect, printShorthand } from "@fox-lamp/language";
import { windowText } from "../../../circuit/wording";

/** Position of a value along the gauge, 0 to 1: straight for volts, by decades for ohms. */
function along(value: number, low: number, high: number, decades: boolean): number {
  if (!decades) return (value - low) / (high - low);
  const clamp = Math.max(value, low);
  return Math.log(clamp / low) / Math.log(high / low);
}

/** The next round number from a value on: one, two or five, and noughts. */
function roundUp(value: number): number {
  if (value <= 0) return 0;
  const decade = 10 ** Math.floor(Math.log10(value));
  return decade * ([1, 2, 5].find((step) => step * decade >= 0.999 * value) ?? 10);
}

/** An end of the scale as it is written: a plain number, shorthand from a thousand on. */
function endText(value: number): string {
  return Math.abs(value) >= 1000 ? printShorthand(value, 2) : String(Number(value.toPrecision(2)));
}

/** Where the scale begins and ends, at round numbers. */
export function scaleOf(expect: Expect): { low: number; high: number; decades: boolean } {
  const top = Math.max(Math.abs(expect.high ?? 0), Math.abs(expect.low ?? 0));
  if (expect.unit === "ohm") return { low: 0.1, high: Math.max(1e3, 10 ** Math.ceil(Math.log10(top * 10))), decades: true };
  if (expect.unit === "V")
    return { low: -roundUp(-1.2 * Math.min(0, expect.low ?? 0)), high: top < 0.3 ? 0.5 : top < 0.95 ? 1 : top < 5.6 ? 6 : 15, decades: false };
  return { low: -roundUp(-Math.min(0, expect.low ?? 0)), high: roundUp(1.2 * top) || 1, decades: false };
}

/** The window of a healthy circuit on a scale, with a mark where the number being typed would lie. */
export function Gauge({ expect, also, value, record = false }: { expect: Expect; also?: Expect | undefined; value: number | null; record?: boolean }) {
  const { low, high } = expect;
  if (low === null || high === null) return <p className="readout text-lg text-lamp">{windowText(expect)}</p>;
  const scale = scaleOf(expect);
  const place = (at: number): string => `${100 * Math.min(1, Math.max(0, along(at, scale.low, scale.high, scale.decades)))}%`;
  return (
    <div className="lg:rounded-xl lg:border lg:border-line lg:px-4 lg:pb-4 lg:pt-2">
      <div className="flex items-baseline justify-between gap-2">
        <span className="readout hidden text-sm text-soft lg:inline">{endText(scale.low)}</span>
        <span className="readout text-center text-lg text-lamp">{windowText(expect, record)}</span>
        <span className="readout hidden text-sm text-soft lg:inline">{endText(scale.high)}</span>
        {also && <span className="readout text-sm text-soft lg:hidden">{windowText(also)}</span>}
      </div>
      {also && <p className="readout m-0 hidden text-center text-sm text-soft lg:block">{windowText(also)}</p>}
      <div className="relative mt-1 h-2 lg:mt-2 rounded-full bg-line">
        <div className="absolute inset-y-0 min-w-1.5 rounded-full bg-lamp" style={{ left: place(low), right: `calc(100% - ${place(high)})` }} />
        {value !== null && <div className="absolute -inset-y-1.5 w-1 -translate-x-1/2 rounded bg-ember" style={{ left: place(value) }} />}
      </div>
    </div>
  );
}
