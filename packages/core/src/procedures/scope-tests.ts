import { type Pin, pinWord, type Setup } from "@fox-lamp/language";
import { type Drive, situationOf } from "../circuit";
import { PROVES } from "../instruments";
import { type Bench, cautionsOf, type Draft, pluggedPlaces, stateWord, titled } from "./drafts";
import type { ScopeSetting } from "./procedure";

const DIVISIONS_UP = 8;
const DIVISIONS_ACROSS = 10;
/** Repetitions that should be seen at once. */
const PERIODS_SHOWN = 5;
/** A ring is seen in a window of this many of its periods. */
const RING_PERIODS = 60;

/** The next step of the 1-2-5 row at or above a number. */
function oneTwoFive(least: number): number {
  const decade = 10 ** Math.floor(Math.log10(least));
  const step = [1, 2, 5, 10].find((factor) => factor * decade >= least * (1 - 1e-9)) ?? 10;
  return Number((step * decade).toPrecision(6));
}

/** Range, coupling, time base and trigger for a signal that swings as a drive does. */
export function scopeFor(drive: Pick<Drive, "shape" | "hertz">, fullScaleVolts: number): ScopeSetting {
  const periods = drive.shape === "ring" ? RING_PERIODS : PERIODS_SHOWN;
  const secondsPerDivision = oneTwoFive(periods / Math.max(0.5, drive.hertz) / DIVISIONS_ACROSS);
  if (drive.shape === "ring") return { coupling: "ac", voltsPerDivision: oneTwoFive(fullScaleVolts / 4), secondsPerDivision, triggerVolts: null };
  const span = drive.shape === "square" ? fullScaleVolts : 2 * fullScaleVolts;
  return {
    coupling: "dc",
    voltsPerDivision: oneTwoFive((1.4 * span) / DIVISIONS_UP),
    secondsPerDivision,
    triggerVolts: drive.shape === "square" ? Number((fullScaleVolts / 2).toPrecision(2)) : 0,
  };
}

/** Highest and lowest level of every signal that moves, on a scope with peak capture, at each place it can be reached (T10). */
export function scopeTests(bench: Bench, moving: readonly Setup[]): Draft[] {
  const { circuit } = bench;
  const { world, fullScaleVolts } = circuit.built;
  const minus = bench.ofRole("signal").find(({ pin }) => pin === "sig-");
  const watched: Pin[] = bench
    .ofRole("signal", "control")
    .map(({ pin }) => pin)
    .filter((pin) => pin !== "sig-");
  const setups = watched.some((pin) => pin === "ctl") ? [{ stimulus: { kind: "command" } } as Setup, ...moving] : moving;
  return setups.flatMap((setup) => {
    const drive = circuit.built.drive(situationOf(world, setup, world.nominal));
    if (drive.hertz === 0) return [];
    const scope = scopeFor(drive, fullScaleVolts);
    return watched.flatMap((pin) =>
      pluggedPlaces(bench.path(pin)).map((place): Draft => {
        const shielded = bench.path(pin).steps.length > 0 && circuit.pins.some(({ role }) => role === "shield");
        return {
          technique: "T10",
          title: titled(`Scope the ${pinWord(pin)}`, place, `${stateWord(setup)}: lowest and highest`),
          meter: "capture",
          red: `${pin}@${place}`,
          black: minus === undefined ? "bat-" : `${minus.pin}@${place}`,
          setup,
          record: true,
          scope,
          minutes: 1.6,
          reach: [place],
          opens: [],
          needs: ["scope", ...(setup.key === "crank" ? (["helper"] as const) : []), ...(setup.stimulus?.kind === "command" ? (["scan"] as const) : [])],
          proves: PROVES.scope,
          cautions: [...cautionsOf(setup), ...(shielded ? ["Back-probe at the connector only: never through the shield."] : [])],
        };
      }),
    );
  });
}
