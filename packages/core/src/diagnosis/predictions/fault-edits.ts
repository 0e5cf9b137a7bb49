import { knownValue, type Setup } from "@fox-lamp/language";
import { type Beside, editsOf, fixedWorld, type Model, type Situation, situationOf } from "../../circuit";
import type { Fault, FaultPart } from "../../faults";
import type { Motion } from "../../instruments";
import type { Edit } from "../../network";
import type { BoundedCache } from "../../numeric";
import type { HypothesisGrid } from "../hypotheses/grid";
import { changeOf } from "./solved-setup";

/** What a fault sets in one moment, and how that moves. */
export interface FaultEdits {
  readonly edits: readonly Edit[];
  readonly motions: readonly Motion[];
}

export const NO_EDITS: FaultEdits = { edits: [], motions: [] };

/** A second severity is moved by this share of its standard deviation to see what follows. */
const NUDGE = 0.01;
const BYTES_EACH = 500;
/** More moments than any signal has: three at most. */
const MOST_MOMENTS = 8;

/** What of a setup an effect can depend on. */
function signature(setup: Setup, circuit: string): string {
  const open = (setup.open ?? []).map((place) => (place === "sensor" ? `${circuit}:sensor` : place)).join("+");
  return [setup.key, setup.rpm, setup.stimulus?.kind, setup.truth?.level === undefined ? undefined : knownValue(setup.truth.level), open].join("|");
}

/** A small step of a cell's severity, and the factor from its effect to a standard deviation within the cell. */
export function severityStep(grid: HypothesisGrid, cell: number): { size: number; perUnit: number } {
  const scale = grid.faults[grid.fault[cell]]?.severity ?? null;
  if (scale === null) return { size: 0, perUnit: 0 };
  const severity = grid.severity[cell];
  const spread = grid.severitySpread[cell];
  return scale.key === "ohms" ? { size: 0.001 * severity, perUnit: spread / 0.001 } : { size: 0.001, perUnit: spread / 0.001 };
}

function keptIn(edits: Map<object, FaultEdits>, of: object, make: () => FaultEdits): FaultEdits {
  const known = edits.get(of) ?? make();
  edits.set(of, known);
  return known;
}

/** The edits of a grid's faults in a setup of a circuit; kept, since many setups ask for the same. */
export class FaultEditor {
  /** By cell. */
  private readonly constant: Map<number, FaultEdits>;
  /** Of the first and the second of two faults, by what they are: many pairs share each. */
  private readonly firstParts: Map<object, FaultEdits>;
  private readonly secondParts: Map<object, FaultEdits>;
  /** By the probed circuit's quantity, then by cell and moment. */
  private readonly varying: Map<string, Map<number, FaultEdits>>;
  private latest: { readonly world: number; readonly spread: number; readonly edits: Map<number, FaultEdits> } | null = null;

  /**
   * @param scope names the grid among all that share the cache
   * @param worldAt value of another circuit's sensed quantity at a cell, `fixed` where something fixes it
   */
  constructor(
    private readonly model: Model,
    private readonly grid: HypothesisGrid,
    private readonly circuit: string,
    setup: Setup,
    cache: BoundedCache,
    scope: string,
    private readonly worldAt: (cell: number, circuit: Model["circuits"][number], fixed: { value: number; spread: number } | null) => { value: number },
  ) {
    this.constant = cache.keep(
      `${scope} edits`,
      () => new Map<number, FaultEdits>(),
      ({ size }) => BYTES_EACH * size,
    );
    const parts = (place: string): Map<object, FaultEdits> =>
      cache.keep(
        `${scope} edits of the ${place}`,
        () => new Map<object, FaultEdits>(),
        ({ size }) => BYTES_EACH * size,
      );
    this.firstParts = parts("first");
    this.secondParts = parts("second");
    this.varying = cache.keep(
      `${scope} edits ${circuit} ${signature(setup, circuit)}`,
      () => new Map<string, Map<number, FaultEdits>>(),
      (worlds) => [...worlds.values()].reduce((sum, { size }) => sum + BYTES_EACH * size, 0),
    );
  }

  /** The edits that were made for a value of the probed circuit's quantity. */
  private editsAt(world: number, spread: number): Map<number, FaultEdits> {
    if (this.latest?.world === world && this.latest.spread === spread) return this.latest.edits;
    const key = `${world}~${spread}`;
    const edits = this.varying.get(key) ?? new Map<number, FaultEdits>();
    this.varying.set(key, edits);
    this.latest = { world, spread, edits };
    return edits;
  }

  /** Edits of a cell's fault in a moment, and their slopes. @param probed situation of the probed circuit; `spread` of its quantity */
  at(cell: number, fault: Fault, probed: Situation, moment: number, spread: number): FaultEdits {
    const kept = fault.constant ? this.constant : this.editsAt(probed.world, spread);
    const key = fault.constant ? cell : cell * MOST_MOMENTS + moment;
    const known = kept.get(key);
    if (known !== undefined) return known;
    const built = fault.parts === undefined ? this.build(cell, fault, probed, moment, spread) : this.composed(cell, fault, fault.parts, probed);
    kept.set(key, built);
    return built;
  }

  /** Edits of two faults that do not heed one another: those of each, the second one's where both set the same. */
  private composed(cell: number, { circuit, severity: scale }: Fault, [first, second]: readonly [FaultPart, FaultPart], probed: Situation): FaultEdits {
    const { network: net } = this.model;
    const made = ({ severity, effect }: FaultPart, next: number, motion: (edit: Edit, change: number) => Motion): FaultEdits => {
      const at = (size: number): Edit[] => editsOf(net, net.values, circuit, effect(size, probed, 0));
      const edits = at(severity);
      if (next === severity) return { edits, motions: [] };
      const moved = at(next);
      const changed = edits.map((edit, index) => ({ edit, change: changeOf(edit, moved[index]) })).filter(({ change }) => change !== 0);
      return { edits, motions: changed.map(({ edit, change }) => motion(edit, change)) };
    };
    const one = keptIn(this.firstParts, first.of, () => {
      const step = severityStep(this.grid, cell);
      return made(first, first.severity + step.size, (edit, change) => {
        const replaced = scale?.key === "ohms" && edit.field === "ohms" && edit.value === first.severity;
        const { element, field } = edit;
        return { element, field, perWorld: 0, perSeverity: change * step.perUnit, perOther: 0, ...(replaced ? { replaced: true as const } : {}) };
      });
    });
    const two = keptIn(this.secondParts, second.of, () =>
      made(second, second.moved(NUDGE), ({ element, field }, change) => ({ element, field, perWorld: 0, perSeverity: 0, perOther: change / NUDGE })),
    );
    const isLast = ({ element, field }: Pick<Edit, "element" | "field">): boolean =>
      !two.edits.some((edit) => edit.element === element && edit.field === field);
    return { edits: [...one.edits.filter(isLast), ...two.edits], motions: [...one.motions.filter(isLast), ...two.motions] };
  }

  private build(cell: number, fault: Fault, probed: Situation, moment: number, spread: number): FaultEdits {
    const { grid, model } = this;
    const { network: net } = model;
    const owner = model.circuits.find(({ id }) => id === fault.circuit);
    const severity = grid.severity[cell];
    const variant = grid.variant[cell] ?? { direction: 1, section: 0, weight: 1 };
    const step = severityStep(grid, cell);
    const own = owner === undefined || owner.id === this.circuit;
    const standing = (circuit: Model["circuits"][number]): Situation =>
      situationOf(circuit.built.world, probed.setup, this.worldAt(cell, circuit, fixedWorld(circuit.built.world, { ...probed.setup, truth: undefined })).value);
    const alone = own ? probed : standing(owner);
    // Of two faults in two circuits each does what it does in the state of its own.
    const beside = (here: Situation): Beside => ({
      probed: this.circuit,
      at: (id) => {
        const circuit = model.circuits.find((one) => one.id === id);
        return id === this.circuit || circuit === undefined ? here : standing(circuit);
      },
    });
    const pair = fault.kind === "pair";
    const situation = pair ? { ...alone, beside: beside(probed) } : alone;
    const at = (size: number, where: Situation): Edit[] => editsOf(net, net.values, fault.circuit, fault.effect(size, where, variant, moment));
    const here = at(severity, situation);
    const worse = step.size === 0 ? here : at(severity + step.size, situation);
    const measured = own ? owner : pair ? model.circuits.find(({ id }) => id === this.circuit) : undefined;
    const worldStep = measured === undefined ? 0 : 0.001 * (measured.built.world.high - measured.built.world.low);
    const moved = { ...probed, world: probed.world + worldStep };
    const warm = own ? { ...situation, world: moved.world } : { ...situation, beside: beside(moved) };
    const warmer = fault.constant || worldStep === 0 ? here : at(severity, warm);
    const nudged = fault.nudged === undefined ? here : editsOf(net, net.values, fault.circuit, fault.nudged(NUDGE, severity, situation, moment));
    const motions = here.flatMap((edit, index): Motion[] => {
      const perWorld = warmer === here ? 0 : (spread * changeOf(edit, warmer[index])) / worldStep;
      const perSeverity = worse === here ? 0 : changeOf(edit, worse[index]) * step.perUnit;
      const perOther = nudged === here ? 0 : changeOf(edit, nudged[index]) / NUDGE;
      if (perWorld === 0 && perSeverity === 0 && perOther === 0) return [];
      const replaced = fault.severity?.key === "ohms" && edit.field === "ohms" && edit.value === severity;
      return [{ element: edit.element, field: edit.field, perWorld, perSeverity, perOther, ...(replaced ? { replaced: true as const } : {}) }];
    });
    return { edits: here, motions };
  }
}
