import { unitTitle } from "@fox-lamp/core/diagnosis";
import { pinWord } from "@fox-lamp/core/tests";
import { formatPercent, formatQuantity } from "@fox-lamp/core/units";
import type { Diagnosis, NextTest } from "@fox-lamp/language";
import { useEffect, useMemo, useRef, useState } from "react";
import { messages } from "../../../messages";
import type { CircuitView, SceneVolts } from "../analysis";
import { type DrawnPart, layoutCircuit, type Spot } from "./layout";

interface Props {
  readonly circuit: CircuitView;
  readonly diagnosis: Diagnosis;
  readonly test: NextTest | null;
  readonly healthy: SceneVolts | undefined;
  /** Measured volts against battery negative, by `pin@place`. */
  readonly measured: ReadonlyMap<string, number>;
  readonly selected: string | null;
  readonly onSelect: (unit: string) => void;
}

/** How a part stands: cleared by readings, suspected, or simply unknown. */
interface Standing {
  readonly probability: number;
  readonly cleared: boolean;
}

function useWidth(): [React.RefObject<HTMLDivElement | null>, number] {
  const ref = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  useEffect(() => {
    if (!ref.current) return;
    const observer = new ResizeObserver(([entry]) => setWidth(Math.round(entry?.contentRect.width ?? 0)));
    observer.observe(ref.current);
    return () => observer.disconnect();
  }, []);
  return [ref, width];
}

const PERCENT_FROM = 0.08;

function Wire({ part, standing, selected }: { part: Extract<DrawnPart, { kind: "wire" }>; standing: Standing; selected: boolean }) {
  const { from, to } = part;
  const line = { x1: from.x, y1: from.y, x2: to.x, y2: to.y };
  const glow = Math.sqrt(standing.probability);
  return (
    <>
      {standing.probability > 0.01 && (
        <line
          {...line}
          className="settle"
          stroke="var(--ember)"
          strokeWidth={10 + 22 * glow}
          strokeLinecap="round"
          opacity={0.1 + 0.55 * glow}
          filter="url(#glow)"
        />
      )}
      <line
        {...line}
        className="settle"
        stroke={standing.probability > PERCENT_FROM ? "var(--ember)" : standing.cleared ? "var(--calm)" : "var(--soft)"}
        strokeWidth={standing.cleared ? 4 : standing.probability > PERCENT_FROM ? 3.5 : 1.75}
        strokeDasharray={standing.cleared || standing.probability <= PERCENT_FROM ? undefined : "10 5"}
      />
      {selected && <line {...line} stroke="var(--lamp)" strokeWidth="1.5" transform="translate(0 9)" />}
    </>
  );
}

function Contact({ part, standing, open, selected }: { part: Extract<DrawnPart, { kind: "contact" }>; standing: Standing; open: boolean; selected: boolean }) {
  const { x, y } = part.at;
  const glow = Math.sqrt(standing.probability);
  const apart = open ? 9 : 0;
  const stroke = standing.probability > PERCENT_FROM ? "var(--ember)" : standing.cleared ? "var(--calm)" : "var(--soft)";
  const box = {
    width: 8,
    height: 20,
    rx: 3,
    fill: "var(--panel)",
    stroke,
    strokeWidth: standing.cleared ? 2.5 : standing.probability > PERCENT_FROM ? 2.5 : 1.4,
  };
  return (
    <>
      {standing.probability > 0.01 && (
        <circle className="settle" cx={x} cy={y} r={9 + 13 * glow} fill="var(--ember)" opacity={0.12 + 0.55 * glow} filter="url(#glow)" />
      )}
      <rect {...box} x={x - 9 - apart * (part.place === "module" ? 0 : 1)} y={y - 10} />
      <rect {...box} x={x + 1 + apart * (part.place === "module" ? 1 : 0)} y={y - 10} />
      {selected && <rect x={x - 13} y={y - 14} width="26" height="28" rx="5" fill="none" stroke="var(--lamp)" strokeWidth="1.5" />}
    </>
  );
}

/** A lead from the meter to a point: leaves downwards from the point and bends into the meter. */
function leadPath(from: Spot, to: Spot): string {
  const drop = Math.max(30, 0.5 * (to.y - from.y));
  return `M ${from.x} ${from.y} C ${from.x} ${from.y + drop}, ${to.x} ${to.y - drop}, ${to.x} ${to.y}`;
}

/** The circuit drawn from the model: suspicion glows, proof is solid, leads lie where they go. */
export function CircuitDrawing({ circuit, diagnosis, test, healthy, measured, selected, onSelect }: Props) {
  const [ref, width] = useWidth();
  const layout = useMemo(() => (width < 260 ? null : layoutCircuit(circuit, width, test !== null)), [circuit, width, test]);
  const standings = useMemo(() => {
    const cleared = new Set(diagnosis.verdict.refuted.map(({ unit }) => unit));
    const odds = new Map(diagnosis.units.map(({ unit, probability }) => [unit, probability]));
    return (local: string): Standing => {
      const unit = `${circuit.id}/${local}`;
      return { probability: cleared.has(unit) ? 0 : (odds.get(unit) ?? 0), cleared: cleared.has(unit) };
    };
  }, [diagnosis, circuit.id]);
  const open = new Set((test?.setup.open ?? []).map((place) => place.split(":").at(-1)));
  const partProps = (local: string) => ({
    onClick: () => onSelect(`${circuit.id}/${local}`),
    style: { cursor: "pointer" },
  });

  const shownStages = circuit.stages
    .map((stage) => ({ stage, standing: standings(stage) }))
    .filter(({ standing }) => standing.probability >= 0.02)
    .sort((a, b) => b.standing.probability - a.standing.probability)
    .slice(0, 2);
  const title = messages.bench.drawingOf(circuit.title);
  return (
    <div ref={ref} className="w-full">
      <TextEquivalent circuit={circuit} standings={standings} />
      {layout && (
        <svg width={layout.width} height={layout.height} role="img" aria-label={title} className="block max-w-full select-none">
          <defs>
            <filter id="glow" x="-60%" y="-400%" width="220%" height="900%" filterUnits="userSpaceOnUse">
              <feGaussianBlur stdDeviation="9" />
            </filter>
          </defs>
          <Box layout={layout.module} title="Module" standing={standings("module:input")} />
          <Box
            layout={layout.sensor}
            title={circuit.part}
            standing={standings("sensor")}
            dashed
            unit={partProps("sensor")}
            selected={selected === `${circuit.id}/sensor`}
          />
          {shownStages.map(({ stage, standing }, index) => {
            const name = unitTitle(`x/${stage}`).replace("Module ", "");
            return (
              <text
                key={stage}
                x={layout.module.x + 10}
                y={layout.module.y + layout.module.height - 10 - 15 * index}
                fontSize="12"
                fill="var(--ember)"
                {...partProps(stage)}
              >
                {layout.width < 520 ? name.replace("low reference", "low ref").replace("reference", "ref") : name} {formatPercent(standing.probability)}
              </text>
            );
          })}
          {layout.rows.map((row) => (
            <line
              key={row.pin}
              x1={layout.module.x + layout.module.width}
              x2={(layout.connectors[0]?.x ?? 0) - 9}
              y1={row.y}
              y2={row.y}
              stroke="var(--soft)"
              strokeWidth="1.75"
            />
          ))}
          {layout.rows.map((row) => (
            <line
              key={row.pin}
              x1={(layout.connectors.at(-1)?.x ?? 0) + 9}
              x2={layout.sensor.x}
              y1={row.y}
              y2={row.y}
              stroke="var(--soft)"
              strokeWidth="1.75"
            />
          ))}
          {layout.parts.map((part) => {
            const standing = standings(part.unit);
            const isSelected = selected === `${circuit.id}/${part.unit}`;
            const key = part.kind === "wire" ? `${part.unit}${part.from.x}` : part.unit;
            return (
              <g key={key} {...partProps(part.unit)}>
                <title>{`${unitTitle(`x/${part.unit}`, circuit.part)}: ${standing.cleared ? "cleared" : formatPercent(standing.probability)}`}</title>
                {part.kind === "wire" ? (
                  <Wire part={part} standing={standing} selected={isSelected} />
                ) : (
                  <Contact part={part} standing={standing} open={open.has(part.place)} selected={isSelected} />
                )}
                {part.kind === "wire" && <line x1={part.from.x} x2={part.to.x} y1={part.from.y} y2={part.to.y} stroke="transparent" strokeWidth="30" />}
              </g>
            );
          })}
          {layout.connectors.map(({ place, x }) => (
            <text key={place} x={x} y={layout.module.y + 16} textAnchor="middle" fontSize="12" fill="var(--soft)">
              {open.has(place) ? "open" : place === "module" || place === "sensor" ? "" : place}
            </text>
          ))}
          {layout.rows.map((row) => {
            const pin = circuit.pins.find((candidate) => candidate.pin === row.pin);
            const standing = standings(`wire:${row.pin}`);
            const read = measured.get(`${row.pin}@sensor`) ?? measured.get(`${row.pin}@module`);
            const volts = healthy?.[`${row.pin}@sensor`];
            const narrow = layout.width < 520;
            return (
              <g key={row.pin} pointerEvents="none">
                <text x={layout.module.x + layout.module.width - 8} y={row.y + 4} textAnchor="end" fontSize="13" fill="var(--soft)">
                  {pinWord(row.pin)}
                </text>
                <text x={layout.sensor.x + 8} y={row.y + 4} fontSize="13" fill="var(--soft)">
                  {pin?.cavity ? `${pin.cavity} ` : ""}
                  {narrow ? row.pin : pinWord(row.pin)}
                </text>
                <text
                  x={row.volts.x}
                  y={row.volts.y}
                  textAnchor="middle"
                  fontSize="15"
                  className="readout"
                  fill={read === undefined ? "var(--soft)" : "var(--ink)"}
                  fontWeight={read === undefined ? 400 : 700}
                >
                  {read === undefined ? (volts === undefined ? "" : formatQuantity(volts, "V")) : `read ${formatQuantity(read, "V")}`}
                </text>
                <text x={row.label.x} y={row.label.y + 2} textAnchor="middle" fontSize="12" fill="var(--soft)">
                  {pin?.colour ?? ""}
                  {standing.probability > PERCENT_FROM ? ` ${formatPercent(standing.probability)}` : standing.cleared ? " cleared" : ""}
                </text>
              </g>
            );
          })}
          {layout.parts.map((part) => {
            const standing = standings(part.unit);
            if (part.kind !== "contact" || standing.probability <= PERCENT_FROM) return null;
            return (
              <text key={part.unit} x={part.at.x} y={part.at.y + 26} textAnchor="middle" fontSize="12" fill="var(--ember)" pointerEvents="none">
                {formatPercent(standing.probability)}
              </text>
            );
          })}
          <Instruments layout={layout} test={test} />
        </svg>
      )}
    </div>
  );
}

function Box({
  layout,
  title,
  standing,
  dashed = false,
  unit,
  selected = false,
}: {
  layout: { x: number; y: number; width: number; height: number };
  title: string;
  standing: Standing;
  dashed?: boolean;
  unit?: object;
  selected?: boolean;
}) {
  const glow = Math.sqrt(standing.probability);
  const words = title.split(" ");
  return (
    <g {...unit}>
      {standing.probability > 0.01 && <rect className="settle" {...layout} rx="14" fill="var(--ember)" opacity={0.06 + 0.4 * glow} filter="url(#glow)" />}
      <rect
        {...layout}
        rx="14"
        fill="var(--panel)"
        stroke={selected ? "var(--lamp)" : standing.probability > PERCENT_FROM ? "var(--ember)" : standing.cleared ? "var(--calm)" : "var(--line)"}
        strokeWidth={standing.cleared || standing.probability > PERCENT_FROM ? 2.5 : 1.5}
        strokeDasharray={dashed && !standing.cleared ? "6 5" : undefined}
      />
      <text x={layout.x + 10} y={layout.y + 22} fontSize={layout.width < 100 ? 12 : 14} fontWeight="700" fill="var(--ink)">
        {words[0]}
      </text>
      <text
        x={layout.x + 10}
        y={layout.y + 38}
        fontSize={layout.width < 100 ? 11 : 12}
        fill={standing.probability > PERCENT_FROM ? "var(--ember)" : "var(--soft)"}
      >
        {words.slice(1).join(" ")}{" "}
        {standing.probability > PERCENT_FROM && title !== "Module"
          ? formatPercent(standing.probability)
          : standing.cleared && title !== "Module"
            ? "cleared"
            : ""}
      </text>
    </g>
  );
}

/** Meter, leads and added parts of a test. */
function Instruments({ layout, test }: { layout: ReturnType<typeof layoutCircuit>; test: NextTest | null }) {
  if (!test || test.meter === "look") return null;
  const { meter } = layout;
  const scan = test.meter === "scan";
  const red = scan ? null : layout.spotOf(test.red);
  const black = test.black === null ? null : layout.spotOf(test.black);
  const named = new Set([test.red, test.black, ...(test.setup.add ?? []).flatMap(({ from, to }) => [from, to])]);
  return (
    <g>
      {Object.entries(layout.posts)
        .filter(([name]) => named.has(name))
        .map(([name, spot]) => (
          <g key={name}>
            <circle cx={spot.x} cy={spot.y} r="7" fill="none" stroke="var(--soft)" strokeWidth="2" />
            <text
              x={spot.x}
              y={spot.y + 24}
              textAnchor={spot.x < 60 ? "start" : spot.x > layout.width - 60 ? "end" : "middle"}
              dx={spot.x < 60 ? -12 : spot.x > layout.width - 60 ? 12 : 0}
              fontSize="12"
              fill="var(--soft)"
            >
              {name === "bat-" ? "battery −" : name === "bat+" ? "battery +" : name}
            </text>
          </g>
        ))}
      {(test.setup.add ?? []).map((added) => {
        const [from, to] = [layout.spotOf(added.from), layout.spotOf(added.to)];
        if (!from || !to) return null;
        const middle = { x: 0.5 * (from.x + to.x) - 26, y: 0.5 * (from.y + to.y) };
        return (
          <g key={`${added.kind}${added.from}${added.to}`}>
            <path
              d={`M ${from.x} ${from.y} Q ${middle.x - 30} ${middle.y} ${to.x} ${to.y}`}
              fill="none"
              stroke="var(--lamp)"
              strokeWidth="3"
              strokeDasharray="2 5"
              strokeLinecap="round"
            />
            <rect x={middle.x - 42} y={middle.y - 12} width="84" height="24" rx="12" fill="var(--ground)" stroke="var(--lamp)" strokeWidth="1.5" />
            <text x={middle.x} y={middle.y + 4.5} textAnchor="middle" fontSize="12" fill="var(--lamp)">
              {added.kind === "resistor" ? formatQuantity(added.ohms ?? 0, "ohm") : added.kind}
            </text>
          </g>
        );
      })}
      {black && (
        <path
          d={leadPath(black, { x: meter.x + 14, y: meter.y + (black.y > meter.y ? meter.height : 0) })}
          fill="none"
          stroke="var(--lead-black)"
          strokeWidth="3.5"
        />
      )}
      {red && (
        <path
          d={leadPath(red, { x: meter.x + meter.width - 14, y: meter.y + (red.y > meter.y ? meter.height : 0) })}
          fill="none"
          stroke="var(--lead-red)"
          strokeWidth="3.5"
        />
      )}
      {black && <circle cx={black.x} cy={black.y} r="7.5" fill="var(--ground)" stroke="var(--lead-black)" strokeWidth="4" />}
      {red && <circle cx={red.x} cy={red.y} r="8" fill="var(--lead-red)" stroke="var(--ground)" strokeWidth="2.5" />}
      {scan && (
        <path
          d={`M ${meter.x} ${meter.y + 22} C ${meter.x - 60} ${meter.y + 22}, ${layout.module.x + 0.5 * layout.module.width} ${meter.y + 20}, ${layout.module.x + 0.5 * layout.module.width} ${layout.module.y + layout.module.height}`}
          fill="none"
          stroke="var(--lamp)"
          strokeWidth="3"
          strokeDasharray="7 5"
        />
      )}
      <rect x={meter.x} y={meter.y} width={meter.width} height={meter.height} rx="11" fill="var(--well)" stroke="var(--lamp)" strokeWidth="2" />
      <text x={meter.x + 0.5 * meter.width} y={meter.y + 27} textAnchor="middle" fontSize="14" fill="var(--ink)">
        {messages.bench.meter[test.meter]}
      </text>
    </g>
  );
}

/** The drawing for those who cannot see it: an ordered list of parts with their state. */
function TextEquivalent({ circuit, standings }: { circuit: CircuitView; standings: (local: string) => Standing }) {
  const units = [
    ...circuit.stages,
    ...circuit.pins.flatMap(({ pin }) => [
      `contact:${pin}@module`,
      `wire:${pin}`,
      ...circuit.inline.map((place) => `contact:${pin}@${place}`),
      `contact:${pin}@sensor`,
    ]),
    "sensor",
  ];
  return (
    <ol className="sr-only" aria-label={messages.bench.partList}>
      {units.map((unit) => {
        const { probability, cleared } = standings(unit);
        return <li key={unit}>{`${unitTitle(`x/${unit}`, circuit.part)}: ${cleared ? "cleared" : `suspicion ${formatPercent(probability)}`}`}</li>;
      })}
    </ol>
  );
}
