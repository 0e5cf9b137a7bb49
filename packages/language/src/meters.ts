import { keysOf } from "./keys";
/** What an instrument shows, as files and screens need to know it; how it is computed is the core's. */
export interface MeterWords {
  /** Base unit of its numbers; empty where it shows words alone, counts, or where the reading says the unit. */
  readonly unit: string;
  /** Words it shows besides a number, or instead of one. */
  readonly words: readonly string[];
  /** Whether it shows numbers at all. */
  readonly numbers: boolean;
  /** Whether it is read with leads on the circuit; looks, gauges and the module's own data are not. */
  readonly leads: boolean;
  /** Whether its readings say something about a circuit's voltages. */
  readonly electrical: boolean;
  /** Whether any other word is kept and weighs nothing. */
  readonly open: boolean;
}

const lead = (unit: string, words: readonly string[] = ["OL"]) => ({ unit, words, numbers: true, leads: true, electrical: true, open: false }) as const;
const words = (list: readonly string[]) => ({ unit: "", words: list, numbers: false, leads: true, electrical: true, open: false }) as const;

/** Every instrument of the language, in the order they are listed to people. */
export const METER_WORDS = {
  "volts-dc": lead("V"),
  "volts-ac": lead("V"),
  ohms: lead("ohm", ["OL", "live"]),
  continuity: words(["beep", "open"]),
  "amps-dc": lead("A"),
  hertz: lead("Hz"),
  duty: lead("%"),
  count: lead("", []),
  lamp: words(["lit", "dim", "out"]),
  scan: { ...lead("V"), leads: false },
  look: { unit: "", words: [], numbers: false, leads: false, electrical: false, open: true },
  listen: { unit: "", words: ["click", "no-click"], numbers: false, leads: false, electrical: false, open: true },
  gauge: { unit: "", words: [], numbers: true, leads: false, electrical: false, open: true },
  notice: {
    unit: "",
    words: ["yes", "no", "still", "moves", "clicks", "silent", "runs", "stalls", "out", "stays-on"],
    numbers: false,
    leads: false,
    electrical: false,
    open: true,
  },
  capture: { ...lead("V", []), open: true },
} as const satisfies Record<string, MeterWords>;

export type Meter = keyof typeof METER_WORDS;

/** Every meter's name. */
export const METERS = keysOf(METER_WORDS);

/** A meter's words and unit. */
export function meterWords(meter: Meter): MeterWords {
  return METER_WORDS[meter];
}

/** The unit numbers of a measurement are in: its own where it says one, else its meter's. */
export function unitOfReading({ meter, unit }: { readonly meter: Meter; readonly unit?: string | null | undefined }): string {
  return meter === "scan" || meter === "gauge" ? (unit ?? METER_WORDS[meter].unit) : METER_WORDS[meter].unit;
}

/** Whether a meter is answered by words alone. */
export function isWordMeter(meter: Meter): boolean {
  return !METER_WORDS[meter].numbers;
}
