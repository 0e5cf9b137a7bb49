import {
  type Added,
  BadInput,
  connectorAt,
  type Instrument,
  type Measurement,
  meterWords,
  parsePoint,
  pinWord,
  pointWordAmong,
  seenWord,
} from "@fox-lamp/language";
import { connectorsOf, engineOf, type Model } from "../circuit";
import { CAUTIONS, harmOf, meterRecord } from "../instruments";
import { cautionsOf } from "./drafts";
import { measurementId, type Procedure } from "./procedure";

const capital = (text: string): string => `${text.charAt(0).toUpperCase()}${text.slice(1)}`;

/** @param named the circuits, whose names stand with leads on others than the test's own */
function titleOf({ circuit, meter, red, black, record }: Measurement, word: string, named: Model["circuits"]): string {
  const pointOf = (text: string): string => pointWordAmong(text, circuit, named);
  switch (meter) {
    case "look":
      return `Look at the ${seenWord(red)}`;
    case "listen":
      return `Listen at the ${seenWord(red)}`;
    case "notice":
      return `Notice the ${seenWord(red)}`;
    case "scan":
      return capital(`${pinWord(parsePin(red))}, what the module reads${record === undefined ? "" : ", lowest to highest"}`);
    default: {
      const points = !meterWords(meter).electrical ? seenWord(red) : `${pointOf(red)}${black === undefined ? "" : ` to ${pointOf(black)}`}`;
      return capital([points, word, record === undefined ? "" : "lowest to highest"].filter((text) => text !== "").join(", "));
    }
  }
}

/** The pin of a point; the text itself where it is none. */
function parsePin(text: string): string {
  const point = parsePoint(text);
  return point?.kind === "pin" ? point.pin : text;
}

/** What to mind of a part that is added, beside what its place forbids. */
const ADDED_CAUTIONS: Readonly<Record<Added["kind"], string | null>> = {
  jumper: CAUTIONS.jumper,
  resistor: CAUTIONS.resistor,
  lamp: CAUTIONS.lamp,
  "led-lamp": null,
};

/** The connector a lead is put on; null for the battery, grounds, and places of other circuits. */
function reachedBy(lead: string | undefined, circuit: string, connectors: readonly string[]): string | null {
  const point = lead === undefined ? null : parsePoint(lead);
  if (point === null || point.kind === "fixed") return null;
  const place = point.place === "part" ? "sensor" : connectorAt(point.place);
  const known = connectors.includes(place) || place === "sensor" || place === "module" ? place : null;
  if (known === null) return null;
  return point.circuit === null || point.circuit === circuit ? known : `${point.circuit}:${known}`;
}

/**
 * A test that somebody put together himself: any leads, instrument and state.
 * @throws BadInput when the measurement names a circuit the model has not
 */
export function ownProcedure(model: Model, measurement: Measurement, where: string): Procedure {
  const { meter, red, black = null, setup = {}, unit = null, record, coupling } = measurement;
  const owner = model.circuits.find(({ id }) => id === measurement.circuit) ?? (measurement.circuit === undefined ? model.circuits[0] : undefined);
  if (owner === undefined) {
    const known = model.circuits.map(({ id }) => id).join(", ");
    throw new BadInput({
      code: "circuit:unknown",
      where: `${where}.circuit`,
      message: `no circuit is called "${measurement.circuit}"; expected one of ${known}`,
    });
  }
  const { choosing } = meterRecord(meter);
  const connectors = connectorsOf(owner);
  const opens = setup.open ?? [];
  const leads = [meter === "scan" ? undefined : red, black ?? undefined, ...(setup.add ?? []).flatMap(({ from, to }) => [from, to])];
  const reach = [...leads.map((lead) => reachedBy(lead, owner.id, connectors)), ...opens];
  const ohms = meter === "ohms" || meter === "continuity";
  const helper: Instrument[] = engineOf(setup).key === "crank" ? ["helper"] : [];
  const parts = [...new Set((setup.add ?? []).map(({ kind }) => kind))];
  const added = parts.map((part): Instrument => (part === "led-lamp" ? "lamp" : part));
  return {
    id: measurementId({ ...measurement, circuit: owner.id }),
    circuit: owner.id,
    technique: choosing.technique,
    title: titleOf({ ...measurement, circuit: owner.id }, choosing.word, model.circuits),
    meter,
    red,
    black,
    setup,
    unit,
    record: record !== undefined,
    scope: meter === "capture" ? { coupling: coupling ?? "dc", voltsPerDivision: 1, secondsPerDivision: 0.02, triggerVolts: null } : null,
    minutes: choosing.minutes,
    reach: [...new Set(reach.filter((place) => place !== null))],
    opens,
    needs: [...new Set([...choosing.needs, ...helper, ...added])],
    proves: choosing.proves,
    cautions: [
      ...new Set([
        ...harmOf(model, measurement),
        ...(ohms ? [CAUTIONS.ohms] : []),
        ...parts.flatMap((part) => ADDED_CAUTIONS[part] ?? []),
        ...cautionsOf(setup),
      ]),
    ],
  };
}
