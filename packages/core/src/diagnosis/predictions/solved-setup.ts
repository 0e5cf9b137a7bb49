import type { Setup } from "@fox-lamp/language";
import {
  applySetup,
  type CircuitModel,
  editsOf,
  isHeld,
  type Model,
  type SetupNetwork,
  type Situation,
  shiftAt,
  situationOf,
  stretchAt,
  touchedDrive,
  type WorldSource,
  worldSource,
} from "../../circuit";
import type { Motion } from "../../instruments";
import { type Edit, type EditSolver, prepareEdits, solveNetwork } from "../../network";

/** A setup at one value of the probed circuit's sensed quantity, with everything solved for it. */
export interface SolvedSetup {
  readonly prepared: SetupNetwork;
  readonly situation: Situation;
  /** Standard deviation of the sensed quantity within the value. */
  readonly spread: number;
  /** Whether the technician states that quantity. */
  readonly held: boolean;
  readonly source: WorldSource;
  /** How far a line that the sheet does not state is turned here. */
  readonly stretch: number;
  /** How far along the sensed quantity it may lie. */
  readonly shift: number;
  /** ln hertz per standard deviation of the sensed quantity. */
  readonly hertzPerWorld: number;
  readonly moments: readonly { readonly share: number; readonly solver: EditSolver; readonly motions: readonly Motion[] }[];
}

/** How far one edit of an element lies from another of the same one: in ln ohms, volts or gain; zero where there is no other. */
export function changeOf(edit: Edit, other: Edit | undefined): number {
  if (other === undefined) return 0;
  return edit.field === "ohms" ? Math.log(other.value / edit.value) : other.value - edit.value;
}

/** Solves a setup at a value of the circuit's sensed quantity. */
export function solveAt(model: Model, circuit: CircuitModel, setup: Setup, world: number, spread: number): SolvedSetup {
  const { built } = circuit;
  const prepared = applySetup(model, setup, circuit.id, "setup", new Map([[circuit.id, world]]));
  const step = 0.001 * (built.world.high - built.world.low);
  const warmer = touchedDrive(setup, built.drive(situationOf(built.world, setup, world + step)));
  const moments = prepared.moments.map(({ share, values }, moment) => {
    const here = editsOf(prepared.net, values, circuit.id, prepared.drive.moments[moment]?.assignments ?? []);
    const moved = editsOf(prepared.net, values, circuit.id, warmer.moments[moment]?.assignments ?? []);
    const motions = here.flatMap((edit, index): Motion[] => {
      const perWorld = (spread * changeOf(edit, moved[index])) / step;
      return perWorld === 0 ? [] : [{ element: edit.element, field: edit.field, perWorld, perSeverity: 0, perOther: 0 }];
    });
    return { share, solver: prepareEdits(solveNetwork(prepared.net, values)), motions };
  });
  const { hertz } = prepared.drive;
  const hertzPerWorld = hertz > 0 && warmer.hertz > 0 ? (spread * Math.log(warmer.hertz / hertz)) / step : 0;
  return {
    prepared,
    situation: situationOf(built.world, setup, world),
    spread,
    held: isHeld(built.world, setup),
    source: worldSource(built.world, setup),
    stretch: stretchAt(built, world, spread),
    shift: shiftAt(built, spread),
    hertzPerWorld,
    moments,
  };
}

/** Bytes a solved setup takes: its values, a factor and an inverse for each moment. */
export function solvedBytes({ prepared, moments }: SolvedSetup): number {
  const { nodes, elements } = prepared.net;
  return moments.length * (16 * nodes.length ** 2 + 64 * elements.length) + 1000;
}
