import { BadInput, type Instrument, type Measurement, meterWords, parsePoint, pointWord } from "@fox-lamp/language";
import { connectorsOf, engineOf, type Model } from "../circuit";
import { CAUTIONS, harmOf, meterRecord } from "../instruments";
import { cautionsOf } from "./drafts";
import { measurementId, type Procedure } from "./procedure";

function titleOf({ meter, red, black }: Measurement, word: string): string {
  const points = !meterWords(meter).electrical ? red : `${pointWord(red)}${black === undefined ? "" : ` to ${pointWord(black)}`}`;
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
  const { choosing } = meterRecord(meter);
  const connectors = connectorsOf(owner);
  const opens = setup.open ?? [];
  const reach = [reachedBy(meter === "scan" ? undefined : red, owner.id, connectors), reachedBy(black ?? undefined, owner.id, connectors), ...opens];
  const ohms = meter === "ohms" || meter === "continuity";
  const helper: Instrument[] = engineOf(setup).key === "crank" ? ["helper"] : [];
  const added = (setup.add ?? []).map(({ kind: part }): Instrument => (part === "led-lamp" ? "lamp" : part));
  return {
    id: measurementId({ ...measurement, circuit: owner.id }),
    circuit: owner.id,
    technique: choosing.technique,
    title: titleOf(measurement, choosing.word),
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
      ...new Set([...harmOf(model, measurement), ...(ohms ? [CAUTIONS.ohms] : []), ...(added.length > 0 ? [CAUTIONS.jumper] : []), ...cautionsOf(setup)]),
    ],
  };
}
