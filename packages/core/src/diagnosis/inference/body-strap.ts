import type { Reading } from "@fox-lamp/language";
import { applySetup, BODY_STRAP_OHMS, type Model } from "../../circuit";
import { nodeVolts, solveNetwork } from "../../network";
import { ACCEPTED_BODY_VOLTS } from "../../procedures";

/** Up to here the spread of a usual strap is a straight line, volts. */
const USUAL_VOLTS = 0.03;

/** Volts of the body against the post with the key on, nothing moved or added; null for any other reading. */
function onBody({ meter, red, black, setup = {}, value }: Reading): number | null {
  if (meter !== "volts-dc" || red !== "chassis" || black !== "bat-" || typeof value !== "number") return null;
  const { key = "on", stimulus, add = [] } = setup;
  return key === "on" && stimulus === undefined && add.length === 0 ? value : null;
}

/**
 * The body strap's ohms, where its volts were read and lie high among what is accepted. Straps differ by a factor of three and more either way, and whoever
 * reads one knows it; predictions are straight lines about the usual one, far from a strap like that.
 *
 * @param model the circuits with the usual strap
 * @returns ohms; undefined where the usual strap will do, or nothing sound explains what was read
 */
export function strapOhmsRead(readings: readonly Reading[], model: Model): number | undefined {
  const read = readings.flatMap((reading) => onBody(reading) ?? []).at(-1);
  const [circuit] = model.circuits;
  if (read === undefined || read <= USUAL_VOLTS || read > ACCEPTED_BODY_VOLTS || circuit === undefined) return undefined;
  const { net, moments } = applySetup(model, {}, circuit.id);
  const [first] = moments;
  const usual = first === undefined ? 0 : nodeVolts(solveNetwork(net, first.values), "chassis");
  return usual > 0 ? (BODY_STRAP_OHMS * read) / usual : undefined;
}
