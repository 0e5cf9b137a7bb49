/** A way of testing, by its number in the field guide, or a look. */
export type Technique = "T1" | "T2" | "T3" | "T4" | "T5" | "T6" | "T7" | "T8" | "T9" | "T10" | "T11" | "T12" | "T13" | "T14" | "T15" | "look";

/** What each kind of test proves, and what it leaves open. */
export const PROVES = {
  scan: "Shows what the module sees. It cannot tell sensor, wire and module apart.",
  counts: "The module sees the signal or it does not. Costs nothing, and tells nothing about where it is lost.",
  plugged: "Shows the wire under its working load at this connector.",
  ground: "A drop here is resistance between this point and the battery.",
  drop: "Whatever drops along this stretch is resistance in it.",
  battery: "Every other voltage is judged against this one.",
  unplugged: "Separates the sensor from everything behind it.",
  noLoad: "Shows presence without load. A wire hanging by one strand still passes.",
  loaded: "Makes the wire carry current, so hidden resistance shows.",
  bypass: "Proves signal wire, ground and module at once, without the sensor.",
  partOhms: "Compares the part with its table. It says nothing about the wires.",
  wireOhms: "Finds a break. A few ohms of resistance do not show under the meter's small current.",
  insulation: "Finds a wire that touches something it should not.",
  wiggle: "The place where the value jumps is the place.",
  sweep: "A worn spot shows as a dip. A quick sweep can miss it.",
  sweepOhms: "A worn spot shows as a jump far above the track's own ohms. A quick sweep can miss it.",
  look: "Sees water, green, bent pins and chafing. A clean look proves little.",
  target: "Sees whether anything moves past the sensor at all, and how far away.",
  rate: "A clean rate proves feed, sensor and wire up to this point, not that the module sees it.",
  itself: "Nothing of the car is behind it: no voltage, and it is the sensor; the usual one, and it is a contact, a wire or the module.",
  turned: "As many changes as the wheel has edges: feed, ground, sensor and wheel are good up to this point.",
  touched: "Counted: module, wire and the module's input are good; what is left is the sensor, its feed, its ground and its wheel.",
  ac: "The sensor makes its voltage, or the wire has lost it. A meter's range falls off above a few kilohertz.",
  average: "A meter averages pulses: half a volt can be a perfect square wave. Compare with the computed window.",
  record: "Lowest and highest over twenty seconds show whether it switches. Faster changes are missed.",
  scope: "Shows the true levels of a moving signal, which a meter averages. Peak capture on, so that no spike is lost.",
  compare: "Two of a kind in the same state should agree. Where they do not, one of them is wrong.",
  notice: "Says what the module makes of the circuit, without its data. It cannot tell sensor, wire and module apart.",
  gauge: "Tells what is really there, without the circuit. It proves nothing about the wires.",
  identify: "Tells which cavity is feed, ground and signal before anything is put on them.",
  command: "The module drives, the part answers. No click is either.",
  amps: "Current through the winding proves feed, winding, wires and driver together.",
  isolate: "If the shared line comes back, the fault sat behind the connector just unplugged.",
  hot: "Only a fault that shows when warm moves here.",
} as const;

/** Cautions shown at the step where they matter. */
export const CAUTIONS = {
  lamp: "Small incandescent lamp only, on the ground cavity only: check face, cavity and colour first.",
  jumper: "Wrong cavity can destroy the module: confirm face, cavity and wire colour. Fused lead only.",
  resistor: "Confirm face, cavity and wire colour, and the resistor's ohms, before it is put in.",
  ohms: "Key off, connector open: never ohms on a live line.",
  crank: "Keep the engine from starting the manual's way; selector safe; crank a few seconds only.",
  running: "Moving belts, fans that start by themselves, hot exhaust; ventilate; wheels chocked.",
  tap: "Tap the block beside the sensor, never the sensor itself.",
  heat: "Warm with air only; keep away from fuel and from the loom's insulation.",
  command: "The part may move or spray: keep hands clear.",
  battery: "Battery gas: no sparks at the posts.",
} as const;
