import type { Instrument, Value } from "@fox-lamp/language";
import type { Element } from "../../network";
import type { Columns } from "../columns";
import type { ElectricalProbe } from "../probe";
import type { Scale } from "../scale";
import type { Leads, MovingCircuit, Prediction } from "../sensitivities";
import type { Rhythm } from "../waveform-view";
import type { Technique } from "../wording";

/** A solved measurement as an instrument meets it. */
export interface Seen extends Rhythm {
  /** What the module reports whatever its pin does, volts; null when it reads the pin. */
  readonly scanVolts: number | null;
}

/** The ends of a range within which a level is shown: at or beyond them only the side is. */
export interface ConverterEnds {
  readonly low: number;
  readonly high: number;
  /** One standard deviation of what is shown at an end. */
  readonly sigma: number;
}

/** What an instrument adds by itself: its gain, and noise in standard deviations of its accuracy; drawn anew at each call. */
export interface InstrumentNoise {
  readonly gain: number;
  readonly normal: () => number;
  readonly uniform: () => number;
}

/** What counts for an instrument when somebody chooses leads and state himself. */
export interface Choosing {
  /** What is added to the points in the test's title. */
  readonly word: string;
  readonly needs: readonly Instrument[];
  readonly minutes: number;
  readonly technique: Technique;
  readonly proves: string;
}

/** Everything about an instrument but its name. */
export interface MeterRecord {
  readonly choosing: Choosing;
}

/** Everything about an instrument that shows something of the circuit's voltages. */
export interface ElectricalRecord extends MeterRecord {
  /** The scale its numbers are weighed on, and how they are shown. */
  readonly scale: (probe: ElectricalProbe) => Scale;
  /** Words it may show besides a number, in the order of {@link Prediction.words}. */
  readonly words: (probe: ElectricalProbe) => readonly string[];
  /** What it shows on a solved circuit. @param noise null for an ideal instrument */
  readonly show: (seen: Seen, probe: ElectricalProbe, noise: InstrumentNoise | null) => Value;
  /** What it shows, linearised in the shared variables; writes into `out`, whose slopes are zero before. */
  readonly predict: (circuit: MovingCircuit, probe: ElectricalProbe, leads: Leads, columns: Columns, out: Prediction) => void;
  /** What it adds to a SPICE deck: elements, and comments or cards between its nodes; null for one without a working point. */
  readonly deck: ((probe: ElectricalProbe, red: string, black: string) => { readonly elements: readonly Element[]; readonly lines: readonly string[] }) | null;
}

/** Noise of an instrument that is somewhat better than its stated accuracy. */
export function drawn(noise: InstrumentNoise | null): number {
  return 0.8 * (noise?.normal() ?? 0);
}
