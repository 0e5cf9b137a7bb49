import type { Family } from "../family";
import { batteryCrank } from "./battery-crank";
import { dualTrack } from "./dual-track";
import { hall3w } from "./hall-3w";
import { knock1w } from "./knock-1w";
import { knock2w } from "./knock-2w";
import { mafFreq } from "./maf-freq";
import { mafVoltage } from "./maf-voltage";
import { oxygenNarrow } from "./oxygen-narrow";
import { potentiometer3w } from "./potentiometer-3w";
import { pressure3w } from "./pressure-3w";
import { pressureFreq } from "./pressure-freq";
import { referenceBus } from "./reference-bus";
import { solenoid2w } from "./solenoid-2w";
import { plainSwitch } from "./switch";
import { thermistor2w } from "./thermistor-2w";
import { vr2w } from "./vr-2w";

/** Every family this version knows. Adding one means one new file and one line here. */
export const FAMILIES: readonly Family[] = [
  thermistor2w,
  potentiometer3w,
  dualTrack,
  pressure3w,
  pressureFreq,
  mafVoltage,
  mafFreq,
  hall3w,
  vr2w,
  knock1w,
  knock2w,
  oxygenNarrow,
  solenoid2w,
  referenceBus,
  batteryCrank,
  plainSwitch,
];

/** The family with an id, or null. */
export function familyById(id: string): Family | null {
  return FAMILIES.find((family) => family.id === id) ?? null;
}
