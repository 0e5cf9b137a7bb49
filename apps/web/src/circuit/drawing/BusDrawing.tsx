import { type CircuitView, formatPercent, formatQuantity, type SceneVolts } from "@fox-lamp/core";
import { pinWord } from "@fox-lamp/language";
import { messages } from "../../messages";
import type { BusLayout } from "./bus-layout";
import { letters } from "./layout";
import { Box, Contact, PERCENT_FROM, type Standing, Wire } from "./parts";

interface Props {
  readonly bus: CircuitView;
  readonly layout: BusLayout;
  /** How any repair unit of the job stands, by its full name. */
  readonly standingOf: (unit: string) => Standing;
  readonly healthy: SceneVolts | undefined;
  readonly measured: ReadonlyMap<string, number>;
  readonly open: (circuit: string, place: string) => boolean;
  readonly selected: string | null;
  readonly onSelect: (unit: string) => void;
}

function shorten(text: string, most: number): string {
  return text.length <= most ? text : `${text.slice(0, most - 1)}…`;
}

/** A shared wire with everything that hangs on it: one trunk, its splices, a branch a sensor. */
export function BusDrawing({ bus, layout, standingOf, healthy, measured, open, selected, onSelect }: Props) {
  const pin = bus.pins[0];
  if (pin === undefined) return null;
  const part = (unit: string) => ({ onClick: () => onSelect(unit), style: { cursor: "pointer" } });
  const trunk = `${bus.id}/wire:${pin.pin}`;
  const moduleContact = `${bus.id}/contact:${pin.pin}@module`;
  const stage = bus.stages[0];
  const stageStanding = stage === undefined ? { probability: 0, cleared: false } : standingOf(`${bus.id}/${stage}`);
  const volts = measured.get(`${pin.pin}@module`) ?? healthy?.[`${pin.pin}@module`];
  const read = measured.has(`${pin.pin}@module`);
  const { branches, splices, module, narrow } = layout;
  return (
    <>
      <g {...(stage === undefined ? {} : part(`${bus.id}/${stage}`))}>
        <Box layout={module} title={narrow ? "Module" : "Module reference"} standing={stageStanding} selected={selected === `${bus.id}/${stage ?? ""}`} />
      </g>
      <line x1={module.x + module.width} x2={layout.contact.x - 9} y1={layout.contact.y} y2={layout.contact.y} stroke="var(--soft)" strokeWidth="1.75" />
      <g {...part(trunk)}>
        <title>{`${messages.bench.trunk(pinWord(pin.pin))}: ${formatPercent(standingOf(trunk).probability)}`}</title>
        <Wire from={layout.trunk.from} to={layout.trunk.to} standing={standingOf(trunk)} selected={selected === trunk} />
        <line x1={layout.trunk.from.x} x2={layout.trunk.to.x} y1={layout.trunk.from.y} y2={layout.trunk.to.y} stroke="transparent" strokeWidth="28" />
      </g>
      <g {...part(moduleContact)}>
        <Contact
          part={{ kind: "contact", unit: moduleContact, pin: pin.pin, place: "module", at: layout.contact }}
          standing={standingOf(moduleContact)}
          open={open(bus.id, "module")}
          selected={selected === moduleContact}
        />
      </g>
      {volts !== undefined && (
        <text
          x={0.5 * (layout.trunk.from.x + (splices[0]?.at.x ?? layout.trunk.to.x))}
          y={layout.trunk.from.y - 11}
          textAnchor="middle"
          fontSize={letters(narrow)}
          className="readout"
          fill={read ? "var(--ink)" : "var(--soft)"}
          fontWeight={read ? 700 : 400}
          pointerEvents="none"
        >
          {read ? `read ${formatQuantity(volts, "V")}` : formatQuantity(volts, "V")}
        </text>
      )}
      {branches.map((branch) => {
        const { circuit } = branch;
        const [wire, contact, sensor] = [`${circuit.id}/wire:${branch.pin}`, `${circuit.id}/contact:${branch.pin}@sensor`, `${circuit.id}/sensor`];
        const standing = standingOf(wire);
        const own = standingOf(sensor);
        const state = own.probability > PERCENT_FROM ? formatPercent(own.probability) : own.cleared ? "cleared" : "";
        const bold = own.cleared || own.probability > PERCENT_FROM;
        return (
          <g key={circuit.id}>
            <g {...part(wire)}>
              <title>{`${circuit.title}: ${formatPercent(standing.probability)}`}</title>
              {branch.drop.from.y !== branch.drop.to.y && <Wire from={branch.drop.from} to={branch.drop.to} standing={standing} selected={false} />}
              <Wire from={branch.run.from} to={branch.run.to} standing={standing} selected={selected === wire} />
              <line x1={branch.run.from.x} x2={branch.run.to.x} y1={branch.run.from.y} y2={branch.run.to.y} stroke="transparent" strokeWidth="26" />
            </g>
            <text
              x={branch.label.x}
              y={branch.label.y}
              textAnchor="middle"
              fontSize={letters(narrow)}
              fill={standing.probability > PERCENT_FROM ? "var(--ember)" : "var(--soft)"}
              pointerEvents="none"
            >
              {[
                narrow ? "" : (circuit.pins.find(({ pin: name }) => name === branch.pin)?.colour ?? ""),
                standing.probability > PERCENT_FROM ? formatPercent(standing.probability) : standing.cleared ? "cleared" : "",
              ]
                .filter((text) => text !== "")
                .join(" ")}
            </text>
            <g {...part(contact)}>
              <Contact
                part={{ kind: "contact", unit: contact, pin: branch.pin, place: "sensor", at: branch.contact }}
                standing={standingOf(contact)}
                open={open(circuit.id, "sensor")}
                selected={selected === contact}
              />
            </g>
            <g {...part(sensor)}>
              <rect
                {...branch.box}
                rx="10"
                fill="var(--panel)"
                stroke={selected === sensor ? "var(--lamp)" : own.probability > PERCENT_FROM ? "var(--ember)" : own.cleared ? "var(--calm)" : "var(--line)"}
                strokeWidth={bold ? 2.5 : 1.5}
                strokeDasharray={own.cleared ? undefined : "6 5"}
              />
              <text x={branch.box.x + 10} y={branch.box.y + 19} fontSize={letters(narrow)} fontWeight="700" fill="var(--ink)">
                {shorten(circuit.title, narrow ? 9 : 18)}
              </text>
              <text
                x={branch.box.x + 10}
                y={branch.box.y + 35}
                fontSize={letters(narrow)}
                fill={own.probability > PERCENT_FROM ? "var(--ember)" : "var(--soft)"}
              >
                {[narrow ? "" : shorten(circuit.part.toLowerCase(), 16), state].filter((text) => text !== "").join(" ")}
              </text>
            </g>
          </g>
        );
      })}
      {splices.map(({ place, at }) => (
        <g key={place}>
          <circle cx={at.x} cy={at.y} r="6" fill="var(--soft)" />
          <text x={at.x} y={at.y - 12} textAnchor="middle" fontSize={letters(narrow)} fill="var(--soft)">
            {place}
          </text>
        </g>
      ))}
    </>
  );
}
