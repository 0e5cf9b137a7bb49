import { curveSlotOf, unitsOfCurve } from "@fox-lamp/core";
import type { SpecVariant } from "@fox-lamp/language";
import { useState } from "react";
import { valueTyped } from "../../../circuit/typed";
import { VariantMatches } from "../../../circuit/VariantMatches";
import { messages } from "../../../messages";
import { typedValue, unitLabel } from "../../../ui/display";
import { Block, TextField } from "../../../ui/form";

const t = messages.specs;

function ohmsOf(text: string): number | undefined {
  const typed = text.trim() === "" ? null : valueTyped(text, { meter: "ohms", red: "" });
  return typed?.ok && typeof typed.value === "number" ? typed.value : undefined;
}

function numberOf(text: string): number | undefined {
  const value = Number(text.replace(",", "."));
  return text.trim() === "" || !Number.isFinite(value) ? undefined : value;
}

/** A part in the hand, by what was measured and seen of it, against the look-alikes that were found. */
export function Compare({ family, variants }: { family: string; variants: readonly SpecVariant[] }) {
  const [ohms, setOhms] = useState("");
  const [warm, setWarm] = useState("");
  const [teeth, setTeeth] = useState("");
  const [connector, setConnector] = useState("");
  const [sensed, setSensed] = useState("");
  const [shown, setShown] = useState("");
  const degrees = numberOf(warm);
  const slot = curveSlotOf(family);
  const [senses = "", shows = ""] = slot === null ? [] : unitsOfCurve(slot.kind);
  const [x, y] = [numberOf(sensed), numberOf(shown)];
  const hand = {
    ohms: ohmsOf(ohms),
    degC: degrees === undefined ? undefined : typedValue(degrees, "degC"),
    teeth: numberOf(teeth),
    connector: connector.trim() === "" ? undefined : connector,
    point: x === undefined || y === undefined ? undefined : ([typedValue(x, senses), typedValue(y, shows)] as const),
  };
  return (
    <Block title={t.compare}>
      <div className="grid grid-cols-2 gap-3 md:grid-cols-4">
        <TextField label={t.handOhms} value={ohms} onChange={(event) => setOhms(event.target.value)} className="readout" />
        <TextField
          label={`${t.handWarm}, ${unitLabel("degC")}`}
          value={warm}
          inputMode="decimal"
          onChange={(event) => setWarm(event.target.value)}
          className="readout"
        />
        <TextField label={t.handTeeth} value={teeth} inputMode="numeric" onChange={(event) => setTeeth(event.target.value)} className="readout" />
        <TextField label={t.handConnector} value={connector} onChange={(event) => setConnector(event.target.value)} />
        {slot !== null &&
          (
            [
              [t.handSensed(unitLabel(senses)), sensed, setSensed],
              [t.handShown(unitLabel(shows)), shown, setShown],
            ] as const
          ).map(([label, value, set]) => (
            <TextField key={label} label={label} value={value} inputMode="decimal" onChange={(event) => set(event.target.value)} className="readout" />
          ))}
      </div>
      <div className="mt-2">
        <VariantMatches family={family} variants={variants} hand={hand} />
      </div>
    </Block>
  );
}
