import type { KeyState, Pin } from "@fox-lamp/language";
import { OPEN_OHMS } from "../network";
import type { Assignment } from "./assignment";
import { type CircuitBuilder, FEED_FUSE_AMPS } from "./builder";
import type { FamilyFault, Tolerance } from "./family";
import { ohmsTolerance, set, stageFault, voltsTolerance } from "./stages";

/**
 * A driver that conducts: by maker it drops a tenth of a volt or most of a whole one whatever flows, and some ohms besides. Where next to nothing
 * flows it drops nothing, and ohms alone lie under it.
 */
const DRIVER_OHMS = 0.1;
/** What feeds a winding while the engine runs. */
const CHARGING_VOLTS = 14.2;
const DRIVER_SIGMA = 0.65;
const DROP_VOLTS = 0.25;
const DROP_SIGMA_VOLTS = 0.25;
const UNLOADED_OHMS = 1;
/** What flows is told by the volts over so many ohms; from 10 mA on the driver is loaded. */
const SENSE_OHMS = 0.01;
const LOADED_VOLTS = 1e-4;
const LINK_OHMS = 1e-3;

/** What a low-side driver watches its wire with while it is off: some volts of its own, weak, so that it notices an open line. */
const WATCH_OHMS = 1e5;
const WATCH_VOLTS = 2.5;
/** None, 2.5, 5 V or half the battery, by maker. */
const WATCH_SPREAD = 0.8;

/**
 * The fuse of a winding that a driver pulls to ground: one that the running engine blows was blown on the way in, and stays so, whatever is done on the bench.
 * @param ohms of the shorted winding
 */
export function blownThrough(pin: Pin, ohms: number): readonly Assignment[] {
  return CHARGING_VOLTS / (ohms + DRIVER_OHMS) > FEED_FUSE_AMPS ? set(`fuse:${pin}`, "ohms", OPEN_OHMS) : [];
}

/** A low-side driver in the module, as it is laid. */
export interface LowSideDriver {
  /** It conducts. */
  readonly on: readonly Assignment[];
  /** It does not, and watches its wire while the key is on. */
  readonly off: (key: KeyState) => readonly Assignment[];
  readonly tolerances: readonly Tolerance[];
  readonly faults: readonly FamilyFault[];
}

/**
 * Lays the transistor with which a module pulls a pin to its ground.
 * @param title of the driver, as its faults name it
 */
export function layDriver(builder: CircuitBuilder, pin: Pin, title: string): LowSideDriver {
  const [inside, ground] = [builder.inside(pin), builder.moduleGround];
  const [foot, sensed, dropped] = [builder.node("foot"), builder.node("sensed"), builder.node("dropped")];
  builder.resistor("driver", inside, sensed, OPEN_OHMS);
  builder.resistor("sense", sensed, foot, SENSE_OHMS);
  builder.resistor("unloaded", foot, ground, UNLOADED_OHMS);
  builder.resistor("loaded", foot, dropped, LINK_OHMS, { plus: sensed, minus: foot, leastVolts: LOADED_VOLTS, certain: true });
  builder.add({ kind: "source", id: "drop", plus: dropped, minus: ground, volts: DROP_VOLTS, ohms: LINK_OHMS });
  builder.add({ kind: "source", id: "watch", plus: inside, minus: ground, volts: WATCH_VOLTS, ohms: WATCH_OHMS });
  const on = set("driver", "ohms", DRIVER_OHMS);
  const off = set("driver", "ohms", OPEN_OHMS);
  return {
    on,
    off: (key) => [...off, ...set("watch", "volts", key === "off" ? 0 : WATCH_VOLTS)],
    tolerances: [
      ohmsTolerance("driver", DRIVER_SIGMA),
      voltsTolerance("drop", DROP_SIGMA_VOLTS),
      { id: "watch", targets: [{ element: "watch", field: "volts", kind: "relative", sigma: WATCH_SPREAD }] },
    ],
    faults: [stageFault("driver", "open", `${title} open`, off), stageFault("driver", "stuck", `${title} stuck on`, on)],
  };
}
