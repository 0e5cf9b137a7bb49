import { ArrowDown, ArrowUp, EyeOff } from "lucide-react";
import { useEffect, useState } from "react";
import { messages } from "../../messages";
import { Button, Chip, numberIn, Select, TextField } from "../../ui/form";
import { FILTERS, type LaneSetting, type LaneSettings, movedLane, scaleSaid, shownLanes, withLane } from "../lanes";

const t = messages.traces;

interface Props {
  readonly settings: LaneSettings;
  readonly onSettings: (settings: LaneSettings) => void;
  readonly chosen: number;
  readonly onChoose: (channel: number) => void;
  readonly names: readonly string[];
  readonly unit: string;
  /** What the lane shows now: where a scale of one's own begins. */
  readonly scale: { readonly low: number; readonly high: number };
}

function text(value: number): string {
  return `${Number(value.toPrecision(3))}`;
}

/** The ends of a lane's scale, typed; they count once both are numbers and the top is above the foot. */
function ScaleFields({
  scale,
  own,
  unit,
  onScale,
}: Pick<Props, "scale" | "unit"> & { own: LaneSetting["scale"]; onScale: (scale: LaneSetting["scale"]) => void }) {
  const [low, setLow] = useState(text(scale.low));
  const [high, setHigh] = useState(text(scale.high));
  useEffect(() => {
    if (own !== null) return;
    setLow(text(scale.low));
    setHigh(text(scale.high));
  }, [own, scale.low, scale.high]);
  const said = (nextLow: string, nextHigh: string): void => {
    setLow(nextLow);
    setHigh(nextHigh);
    const found = scaleSaid(numberIn(nextLow) ?? Number.NaN, numberIn(nextHigh) ?? Number.NaN);
    if (found !== null) onScale(found);
  };
  const wrong = scaleSaid(numberIn(low) ?? Number.NaN, numberIn(high) ?? Number.NaN) === null;
  return (
    <>
      <TextField label={t.scaleLow(unit)} inputMode="decimal" value={low} onChange={(event) => said(event.target.value, high)} />
      <TextField
        label={t.scaleHigh(unit)}
        inputMode="decimal"
        value={high}
        error={wrong ? t.scaleWrong : undefined}
        onChange={(event) => said(low, event.target.value)}
      />
      <Button className="self-end" disabled={own === null} onClick={() => onScale(null)}>
        {t.scaleFit}
      </Button>
    </>
  );
}

/** How each channel is shown, after the fact: its place, its scale, its coupling, a filter. The samples stay as they were captured. */
export function LanePanel({ settings, onSettings, chosen, onChoose, names, unit, scale }: Props) {
  const own = settings.of[chosen];
  if (own === undefined) return null;
  const shown = shownLanes(settings);
  const change = (next: Partial<LaneSetting>): void => onSettings(withLane(settings, chosen, next));
  const hide = (): void => {
    const hidden = withLane(settings, chosen, { hidden: true });
    onSettings(hidden);
    onChoose(shownLanes(hidden)[0] ?? chosen);
  };
  return (
    <details className="rounded-xl border border-line px-3 py-2">
      <summary className="min-h-8 cursor-pointer font-bold">{t.lanes}</summary>
      <p className="m-0 mb-2 text-sm text-soft">{t.lanesLead}</p>
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-4 lg:grid-cols-8">
        <Select
          label={t.lane}
          options={shown.map((channel) => [`${channel}`, names[channel] ?? `${channel + 1}`] as const)}
          value={`${chosen}`}
          onChange={(channel) => onChoose(Number(channel))}
        />
        <Select
          label={t.coupling}
          options={[
            ["dc", t.couplings.dc],
            ["ac", t.couplings.ac],
          ]}
          value={own.coupling}
          onChange={(coupling) => change({ coupling, scale: null })}
        />
        <Select
          label={t.filter}
          options={FILTERS.map((seconds) => [`${seconds}`, t.filterOf(seconds)] as const)}
          value={`${own.filterSeconds}`}
          onChange={(seconds) => change({ filterSeconds: Number(seconds) })}
        />
        <ScaleFields key={`${chosen} ${own.coupling}`} scale={scale} own={own.scale} unit={unit} onScale={(next) => change({ scale: next })} />
        <span className="col-span-2 flex items-end gap-1">
          <Button aria-label={t.laneUp} title={t.laneUp} disabled={shown[0] === chosen} onClick={() => onSettings(movedLane(settings, chosen, -1))}>
            <ArrowUp size={18} aria-hidden="true" />
          </Button>
          <Button aria-label={t.laneDown} title={t.laneDown} disabled={shown.at(-1) === chosen} onClick={() => onSettings(movedLane(settings, chosen, 1))}>
            <ArrowDown size={18} aria-hidden="true" />
          </Button>
          <Button aria-label={t.laneHide} title={t.laneHide} disabled={shown.length < 2} onClick={hide}>
            <EyeOff size={18} aria-hidden="true" />
          </Button>
        </span>
      </div>
      {shown.length < names.length && (
        <div className="mt-2 flex flex-wrap items-center gap-2">
          <span className="text-sm text-soft">{t.lanesHidden}</span>
          {names.map((name, channel) =>
            settings.of[channel]?.hidden === true ? (
              <Chip key={name} on={false} onChange={() => onSettings(withLane(settings, channel, { hidden: false }))}>
                {name}
              </Chip>
            ) : null,
          )}
        </div>
      )}
    </details>
  );
}
