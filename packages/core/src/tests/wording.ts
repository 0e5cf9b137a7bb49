/** What each kind of test proves, and what it leaves open. */
export const PROVES = {
  scan: "Shows what the module sees. It cannot tell sensor, wire and module apart.",
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
  look: "Sees water, green, bent pins and chafing. A clean look proves little.",
} as const;

/** Cautions shown at the step where they matter. */
export const CAUTIONS = {
  lamp: "Small incandescent lamp only, on the ground cavity only: check face, cavity and colour first.",
  jumper: "Wrong cavity can destroy the module: confirm face, cavity and wire colour. Fused lead only.",
  ohms: "Key off, connector open: never ohms on a live line.",
} as const;

const PIN_WORDS: Readonly<Record<string, string>> = { ref: "reference", sig: "signal", gnd: "ground", feed: "feed" };

/** A pin as people say it. */
export function pinWord(pin: string, capital = false): string {
  const word = PIN_WORDS[pin] ?? pin;
  return capital ? word.charAt(0).toUpperCase() + word.slice(1) : word;
}

/** A place as people say it: "at the sensor". */
export function placeWord(place: string): string {
  return place === "sensor" || place === "module" ? `at the ${place}` : place === "part" ? "on the part" : `at ${place}`;
}
