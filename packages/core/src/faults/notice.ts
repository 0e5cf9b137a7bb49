import type { Setup } from "@fox-lamp/language";
import { type Assignment, applySetup, type CircuitModel, editsOf, fixedWorld, type Model, type Situation, situationOf, type Watched } from "../circuit";
import { type EditSolver, prepareEdits, solveNetwork, type Values, voltsBetween } from "../network";

/** What a fault does in a situation, in one of its circuit's moments, as assignments of elements by full or local name. */
export type Effect = (situation: Situation, moment: number) => readonly Assignment[];

interface Case {
  readonly situation: Situation;
  readonly red: number;
  readonly black: number;
  readonly of: "mean" | "swing";
  readonly volts: number;
  readonly signed: boolean;
  readonly swing: readonly [number, number] | null;
  readonly moments: readonly { readonly share: number; readonly values: Values; readonly room: EditSolver }[];
  readonly healthy: number;
}

/** Values of the sensed quantity at which a circuit is judged in a setup. */
function judgedWorlds(circuit: CircuitModel, setup: Setup): readonly number[] {
  const fixed = fixedWorld(circuit.built.world, setup);
  if (fixed !== null) return [fixed.value];
  const { normal, nominal } = circuit.built.world;
  return [...new Set([nominal, normal[0]?.value ?? nominal, normal[Math.floor(normal.length / 2)]?.value ?? nominal, normal.at(-1)?.value ?? nominal])];
}

/** A meter on an open line is moved by so much, volts. */
const SEEN_VOLTS = 0.25;

/** What a meter sees at the unplugged sensor on the lines that the module alone holds. */
export function seenAtOpenPlug({ id, paths }: CircuitModel): Watched[] {
  return paths
    .filter(({ role, places }) => role === "signal" && places.has("sensor"))
    .map(({ pin }) => ({ setup: { open: ["sensor"] }, red: `${id}:${pin}@sensor`, black: "bat-", of: "mean", volts: SEEN_VOLTS }));
}

/** States in which something works. */
const WORK = [{ key: "on" }, { key: "idle" }, { key: "on", stimulus: { kind: "command" } }] as const;
/** A drop of so much along a feed or a ground at work is more than anybody accepts, volts. */
const DROP_VOLTS = 0.4;

/** What a meter sees at the part's own feeds and grounds while it works. */
export function seenAtWork({ paths }: CircuitModel): Watched[] {
  return paths
    .filter(({ role }) => role !== "signal" && role !== "shield")
    .flatMap(({ part }) => WORK.map((setup): Watched => ({ setup, red: part, black: "bat-", of: "mean", volts: DROP_VOLTS })));
}

/**
 * Judges whether a fault of a circuit is anybody's complaint: whether it moves one of the voltages the circuit is watched by.
 * Everything that does not depend on the fault is solved once.
 *
 * @param watched what is watched instead
 */
export class Notice {
  private readonly cases: readonly Case[];

  constructor(
    private readonly model: Model,
    private readonly circuit: CircuitModel,
    watched: readonly Watched[] = circuit.built.watched,
  ) {
    const { world } = circuit.built;
    const solved = new Map<string, Omit<Case, "red" | "black" | "of" | "volts" | "signed" | "healthy">>();
    this.cases = watched.flatMap((watch) =>
      judgedWorlds(circuit, watch.setup).map((value): Case => {
        const key = JSON.stringify([watch.setup, value]);
        let found = solved.get(key);
        if (!found) {
          const prepared = applySetup(model, watch.setup, circuit.id, "setup", new Map([[circuit.id, value]]));
          found = {
            situation: situationOf(world, watch.setup, value),
            swing: prepared.drive.swing,
            moments: prepared.moments.map(({ share, values }) => ({ share, values, room: prepareEdits(solveNetwork(prepared.net, values)) })),
          };
          solved.set(key, found);
        }
        const { nodeIndex } = model.network;
        const draft = {
          ...found,
          red: nodeIndex.get(watch.red) ?? -1,
          black: nodeIndex.get(watch.black) ?? -1,
          of: watch.of,
          volts: watch.volts,
          signed: watch.signed === true,
          healthy: 0,
        };
        return { ...draft, healthy: this.shown(draft, () => [], circuit.id) };
      }),
    );
  }

  /** Whether an effect is noticed: by its size, where the watched voltage says so by its sign too (a winding does not mind being turned round). @param owner circuit whose local element names it uses */
  notices(effect: Effect, owner = this.circuit.id): boolean {
    return this.cases.some((one) => this.moved(one, this.shown(one, effect, owner)) > one.volts);
  }

  private moved({ signed, healthy }: Case, shown: number): number {
    return signed ? Math.abs(shown - healthy) : Math.abs(Math.abs(shown) - Math.abs(healthy));
  }

  private shown(one: Case, effect: Effect, owner: string): number {
    const at = one.moments.map(({ values, room }, moment) => {
      const edits = editsOf(this.model.network, values, owner, effect(one.situation, moment));
      return voltsBetween(room.apply(edits).volts, one.red, one.black);
    });
    if (one.of === "mean") return at.reduce((sum, volts, moment) => sum + volts * (one.moments[moment]?.share ?? 0), 0);
    return one.swing === null ? 0 : Math.abs((at[one.swing[0]] ?? 0) - (at[one.swing[1]] ?? 0));
  }
}

const GRID_PER_DECADE = 8;
/** The span is searched in strides of this many points, then point by point at its ends. */
const COARSE = 5;

/**
 * The part of a resistance span where a fault is noticed, ohms; null where it never is.
 *
 * @param series true when more ohms mean more effect, false for a shunt
 */
export function noticedOhms(
  notice: Notice,
  span: { readonly low: number; readonly high: number },
  series: boolean,
  effect: (ohms: number) => Effect,
): { low: number; high: number } | null {
  const steps = Math.round(Math.log10(span.high / span.low) * GRID_PER_DECADE);
  const grid = Array.from({ length: steps + 1 }, (_, index) => Number((span.low * (span.high / span.low) ** (index / steps)).toPrecision(3)));
  const known = new Map<number, boolean>();
  const at = (index: number): boolean => {
    let seen = known.get(index);
    if (seen === undefined) {
      seen = notice.notices(effect(grid[index] as number));
      known.set(index, seen);
    }
    return seen;
  };
  const coarse = grid.map((_, index) => index).filter((index) => (index % COARSE === 0 || index === steps) && at(index));
  const [first, last] = [coarse[0], coarse.at(-1)];
  if (first === undefined || last === undefined) return null;
  let [from, to] = [first, last];
  while (from > 0 && at(from - 1)) from -= 1;
  while (to < steps && at(to + 1)) to += 1;
  const [low, high] = [grid[from], grid[to]];
  if (low === undefined || high === undefined) return null;
  return series ? { low, high: Math.min(high, Math.max(5e4, 20 * low)) } : { low, high: Math.max(high, 4 * low) };
}

/** So many halvings find the share a fault is noticed from. */
const HALVINGS = 5;

/**
 * The share from which on a fault that grows with it is noticed; null where the least is noticed already, or not even the most.
 *
 * @param span of shares, from 0 to 1
 */
export function noticedShare(notice: Notice, span: { readonly low: number; readonly high: number }, effect: (share: number) => Effect): number | null {
  const at = (share: number): boolean => notice.notices(effect(share));
  if (at(span.low) || !at(span.high)) return null;
  let [low, high] = [span.low, span.high];
  for (let halving = 0; halving < HALVINGS; halving += 1) {
    const middle = 0.5 * (low + high);
    if (at(middle)) high = middle;
    else low = middle;
  }
  return high;
}
