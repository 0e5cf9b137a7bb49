import type { Reading, Setup } from "@fox-lamp/language";

/** A reading of DC volts as somebody types it, against battery negative unless said otherwise. */
export const typedVolts = (circuit: string, red: string, value: number, setup: Setup = {}, black = "bat-"): Reading => ({
  circuit,
  meter: "volts-dc",
  red,
  black,
  setup,
  value,
});
