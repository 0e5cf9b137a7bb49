import { BadInput, type Instrument, type Measurement, type Meter, parsePoint, pointWord } from "@fox-lamp/language";
import { connectorsOf, engineOf, type Model } from "../circuit";
import { harmOf } from "../instruments";
import { cautionsOf } from "./drafts";
import { measurementId, type Procedure, type Technique } from "./procedure";
import { CAUTIONS, PROVES } from "./wording";

/** What each instrument needs, proves, costs and counts as when somebody chooses leads and state himself. */
interface OwnKind {
  readonly word: string;
  readonly needs: readonly Instrument[];
  readonly minutes: number;
  readonly technique: Technique;
  readonly proves: string;
}

function kindOf(meter: Meter): OwnKind {
  switch (meter) {
    case "volts-dc":
      return { word: "", needs: ["meter"], minutes: 0.7, technique: "T2", proves: PROVES.plugged };
    case "volts-ac":
      return { word: "AC volts", needs: ["meter"], minutes: 0.8, technique: "T8", proves: PROVES.ac };
    case "ohms":
      return { word: "ohms", needs: ["meter"], minutes: 1, technique: "T7", proves: PROVES.wireOhms };
    case "continuity":
      return { word: "continuity", needs: ["meter"], minutes: 0.8, technique: "T7", proves: PROVES.wireOhms };
    case "amps-dc":
      return { word: "amps", needs: ["clamp"], minutes: 1, technique: "T12", proves: PROVES.amps };
    case "hertz":
      return { word: "rate", needs: ["meter"], minutes: 0.8, technique: "T8", proves: PROVES.rate };
    case "duty":
      return { word: "duty", needs: ["meter"], minutes: 0.8, technique: "T8", proves: PROVES.rate };
    case "lamp":
      return { word: "test lamp", needs: ["lamp"], minutes: 0.8, technique: "T5", proves: PROVES.loaded };
    case "scan":
      return { word: "module's own value", needs: ["scan"], minutes: 0.5, technique: "T1", proves: PROVES.scan };
    case "look":
      return { word: "look", needs: [], minutes: 1, technique: "look", proves: PROVES.look };
    case "listen":
      return { word: "listen", needs: [], minutes: 0.5, technique: "T12", proves: PROVES.command };
    case "gauge":
      return { word: "measured without the circuit", needs: [], minutes: 2, technique: "T7", proves: PROVES.gauge };
    case "capture":
      return { word: "scope", needs: ["scope"], minutes: 2, technique: "T10", proves: PROVES.scope };
  }
}

function titleOf({ meter, red, black }: Measurement, word: string): string {
  const points = meter === "look" || meter === "listen" || meter === "gauge" ? red : `${pointWord(red)}${black === undefined ? "" : ` to ${pointWord(black)}`}`;
  const text = word === "" ? points : `${points}, ${word}`;
  return `${text.charAt(0).toUpperCase()}${text.slice(1)}`;
}

/** The connector a lead is put on; null for the battery, grounds, and places of other circuits. */
function reachedBy(lead: string | undefined, circuit: string, connectors: readonly string[]): string | null {
  const point = lead === undefined ? null : parsePoint(lead);
  if (point === null || point.kind === "fixed") return null;
  const place = point.place === "part" ? "sensor" : point.place;
  const known = connectors.includes(place) || place === "sensor" || place === "module" ? place : null;
  if (known === null) return null;
  return point.circuit === undefined || point.circuit === circuit ? known : `${point.circuit}:${known}`;
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
  const kind = kindOf(meter);
  const connectors = connectorsOf(owner);
  const opens = setup.open ?? [];
  const reach = [reachedBy(meter === "scan" ? undefined : red, owner.id, connectors), reachedBy(black ?? undefined, owner.id, connectors), ...opens];
  const ohms = meter === "ohms" || meter === "continuity";
  const helper: Instrument[] = engineOf(setup).key === "crank" ? ["helper"] : [];
  const added = (setup.add ?? []).map(({ kind: part }): Instrument => (part === "led-lamp" ? "lamp" : part));
  return {
    id: measurementId({ ...measurement, circuit: owner.id }),
    circuit: owner.id,
    technique: kind.technique,
    title: titleOf(measurement, kind.word),
    meter,
    red,
    black,
    setup,
    unit,
    record: record !== undefined,
    scope: meter === "capture" ? { coupling: coupling ?? "dc", voltsPerDivision: 1, secondsPerDivision: 0.02, triggerVolts: null } : null,
    minutes: kind.minutes,
    reach: [...new Set(reach.filter((place) => place !== null))],
    opens,
    needs: [...new Set([...kind.needs, ...helper, ...added])],
    proves: kind.proves,
    cautions: [
      ...new Set([...harmOf(model, measurement), ...(ohms ? [CAUTIONS.ohms] : []), ...(added.length > 0 ? [CAUTIONS.jumper] : []), ...cautionsOf(setup)]),
    ],
  };
}
