import { PROVES } from "../wording";
import type { MeterRecord } from "./record";

/** Eyes. */
export const look: MeterRecord = { choosing: { word: "look", needs: [], minutes: 1, technique: "look", proves: PROVES.look } };

/** Ears: a click on command. */
export const listen: MeterRecord = { choosing: { word: "listen", needs: [], minutes: 0.5, technique: "T12", proves: PROVES.command } };

/** A thermometer, a pressure gauge, a twin: the sensed quantity without the circuit. */
export const gauge: MeterRecord = { choosing: { word: "measured without the circuit", needs: [], minutes: 2, technique: "T7", proves: PROVES.gauge } };

/** What anybody notices without an instrument: no spark, a tachometer that stands still, a relay that clicks. */
export const notice: MeterRecord = { choosing: { word: "noticed", needs: [], minutes: 0.3, technique: "T1", proves: PROVES.notice } };
