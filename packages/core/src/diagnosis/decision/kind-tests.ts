import type { UnsaidColumn } from "../../instruments";
import type { Procedure } from "../../procedures";
import type { WeighedJob } from "../posterior/weighed-job";
import { rankedAlone } from "../value-of-information/rank";
import { MOST_NEXT, type RankedPart, type Standing } from "./standing";

/** What a module holds an open line at, and through what. */
const SHOWN_UNPLUGGED: ReadonlySet<string> = new Set(["pullup", "pulldown", "heldUp", "pullupV", "biasV"]);

/** Whether a test is a plain look at the signal, by the module or by a lead. */
function ofSignal({ meter, red, setup }: Procedure): boolean {
  const plain = (setup.add ?? []).length === 0 && setup.stimulus === undefined && (setup.key ?? "on") === "on";
  return plain && red.startsWith("sig") && (meter === "scan" || meter === "volts-dc");
}

const ANY_PAIR = /^\S+@part \S+@part$/;
/** Pins between which an ohmmeter on the bare part shows what a sheet leaves out. */
const SHOWN_ON_PART: Readonly<Record<string, RegExp>> = {
  track: /^ref\d*@part gnd\d*@part$/,
  resistance: ANY_PAIR,
  coil: ANY_PAIR,
  heater: /^htr\S*@part htr\S*@part$/,
  curve: ANY_PAIR,
};

/** Of two names for one figure the narrower: a track's resistance is that of the whole track, not of its wiper. */
function partsOf(parameters: readonly string[]): readonly string[] {
  return parameters.includes("track") ? ["track"] : parameters;
}

/** Whether a test measures the part's own resistance by itself. */
function ofBarePart({ meter, red, black, setup }: Procedure, between: RegExp): boolean {
  return meter === "ohms" && setup.stimulus === undefined && (setup.add ?? []).length === 0 && between.test(`${red} ${black}`);
}

/** Whether a test shows what a sheet leaves out, whatever is wrong with the rest. */
function shows(procedure: Procedure, parameter: string): boolean {
  const { meter, red, setup } = procedure;
  const unplugged = (setup.open ?? []).join() === "sensor";
  if (SHOWN_UNPLUGGED.has(parameter)) return unplugged && ofSignal(procedure);
  const between = SHOWN_ON_PART[parameter];
  if (between !== undefined) return ofBarePart(procedure, between);
  if (parameter === "feedV") return unplugged && meter === "volts-dc" && red.startsWith("feed@");
  if (parameter === "percentOf") return meter === "scan" && procedure.unit === "%" && setup.truth?.position !== undefined;
  return false;
}

/**
 * Tests that show what the leader's sheets leave out and its verdict hangs on, the quickest first; empty where only a book says it.
 *
 * @param hangs what the verdict hangs on: the kind of circuit, or a figure that would have to lie far from the usual
 */
export function kindTests({ joint }: WeighedJob, { posterior, possible }: Standing, hangs: readonly Omit<UnsaidColumn, "column">[]): readonly RankedPart[] {
  if (posterior === null) return [];
  const own = possible[joint.circuits.indexOf(posterior)] ?? [];
  const telling = own.filter(({ offered: { procedure } }) =>
    hangs.some(({ circuit, parameters }) => procedure.circuit === circuit && partsOf(parameters).some((parameter) => shows(procedure, parameter))),
  );
  return telling
    .sort((a, b) => a.minutes - b.minutes)
    .slice(0, MOST_NEXT)
    .map((test) => ({ posterior, test: rankedAlone(test, new Float64Array(posterior.units.length).fill(1), () => 1 / test.minutes), cause: "kind" }));
}
