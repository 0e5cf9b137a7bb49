import { keysOf, type Meter } from "@fox-lamp/language";
import type { ElectricalMeter } from "../probe";
import { ampsDc } from "./amps-dc";
import { capture } from "./capture";
import { continuity } from "./continuity";
import { count } from "./count";
import { duty } from "./duty";
import { hertz } from "./hertz";
import { lamp } from "./lamp";
import { ohms } from "./ohms";
import type { ElectricalRecord, MeterRecord } from "./record";
import { scan } from "./scan";
import { gauge, listen, look, notice } from "./unwired";
import { voltsAc } from "./volts-ac";
import { voltsDc } from "./volts-dc";

const ELECTRICAL: Readonly<Record<ElectricalMeter, ElectricalRecord>> = {
  "volts-dc": voltsDc,
  "volts-ac": voltsAc,
  ohms,
  continuity,
  "amps-dc": ampsDc,
  hertz,
  duty,
  count,
  lamp,
  scan,
  capture,
};

const ALL: Readonly<Record<Meter, MeterRecord>> = { ...ELECTRICAL, look, listen, gauge, notice };

/** Everything about an instrument that shows something of the circuit's voltages. */
export function electricalRecord(meter: ElectricalMeter): ElectricalRecord {
  return ELECTRICAL[meter];
}

/** What every instrument has. */
export function meterRecord(meter: Meter): MeterRecord {
  return ALL[meter];
}

/** Electrical meters with a working point, which a deck can hold. */
export const DECKED = keysOf(ELECTRICAL).filter((meter) => ELECTRICAL[meter].deck !== null);
