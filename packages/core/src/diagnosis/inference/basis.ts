import type { Circuit, Expect, FoundBefore, Measurement } from "@fox-lamp/language";
import { buildModel, type CircuitModel, type Model } from "../../circuit";
import { type Fault, faultsOf, HEALTHY_PRIOR, type Hint } from "../../faults";
import { type Columns, columnsOf, type Probe, probeOf } from "../../instruments";
import { type BoundedCache, lazy } from "../../numeric";
import { type Conditions, expectOf, generateTests, measurementOf, type Policy, type Procedure, USUAL_POLICY } from "../../procedures";
import { type HypothesisGrid, layGrid } from "../hypotheses/grid";
import { alikeForAll, sensedValuesOf } from "../hypotheses/sensed-values";

/** A test of the circuits, resolved. */
export interface OfferedTest {
  readonly procedure: Procedure;
  readonly probe: Probe;
  /** The window of a healthy circuit, computed when it is asked for. */
  readonly expect: () => Expect;
}

/** What is known of circuits besides themselves. */
export interface InferenceOptions {
  /** What each circuit senses, where it is known for the whole job, by circuit id. */
  readonly conditions: Readonly<Record<string, Conditions>>;
  /** Circuits of which some reading leaves the sensed quantity open, so that its whole range is weighed. */
  readonly open: ReadonlySet<string>;
  readonly hints: readonly Hint[];
  /** What was found before on circuits of these families. */
  readonly learnt: readonly FoundBefore[];
  readonly policy: Policy;
  /** Whose battery and grounds they are. */
  readonly carId: string;
  /** Circuits of the job that share nothing with these. */
  readonly others: readonly string[];
  /** Resistance of the body strap, where something was read of it. */
  readonly strapOhms?: number | undefined;
}

export const NOTHING_KNOWN: InferenceOptions = { conditions: {}, open: new Set(), hints: [], learnt: [], policy: USUAL_POLICY, carId: "car", others: [] };

/**
 * Everything about circuits that share anything which depends on no reading and on no choice of hypotheses: network, faults, shared
 * variables, the grid of single faults, and the tests they offer.
 */
export class CircuitBasis {
  readonly model: Model;
  readonly circuits: readonly CircuitModel[];
  readonly columns: Columns;
  readonly faults: readonly Fault[];
  /** What each circuit senses, where it is known for the whole job, by circuit id. */
  readonly conditions: Readonly<Record<string, Conditions>>;
  /** The grid of the circuits' single faults. */
  readonly grid: HypothesisGrid;
  /** log of how much likelier "the value is true" is made by what is known, by unit. */
  readonly outsideLog: ReadonlyMap<string, number>;
  /** The tests of the circuits under their conditions. */
  readonly tests: () => readonly OfferedTest[];
  /** The circuits on a usual body strap: what was read of this car's is no measure of what is sound. */
  private readonly usual: () => { readonly model: Model; readonly columns: Columns };

  /**
   * @param cache where tables, solved setups and other grids are kept
   * @param scope names these circuits among all that share the cache
   * @throws BadInput for circuits that cannot be
   */
  constructor(
    circuits: readonly Circuit[],
    options: InferenceOptions,
    where: string,
    readonly cache: BoundedCache,
    readonly scope: string,
  ) {
    const { conditions, open, hints, learnt, carId, others, policy, strapOhms } = options;
    this.conditions = conditions;
    this.model = buildModel(circuits, where, { carId, others, strapOhms });
    this.circuits = this.model.circuits;
    this.columns = columnsOf(this.model);
    this.usual = lazy(() => {
      const model = strapOhms === undefined ? this.model : buildModel(circuits, where, { carId, others });
      return { model, columns: model === this.model ? this.columns : columnsOf(model) };
    });
    this.faults = faultsOf(this.model, hints, learnt);
    const values = this.circuits.map((circuit) => {
      const own = sensedValuesOf(circuit, conditions[circuit.id], open.has(circuit.id));
      return alikeForAll(own, circuit, this.circuits.length);
    });
    this.outsideLog = new Map(values.map(({ circuit, outsideFactor }) => [`${circuit}/outside`, outsideFactor === 0 ? 0 : Math.log(outsideFactor)]));
    this.grid = layGrid(this.faults, HEALTHY_PRIOR, values);
    this.tests = lazy(() => this.circuits.flatMap((circuit) => this.offeredBy(circuit, conditions[circuit.id], policy)));
  }

  /** The circuit with an id; the first one for battery and grounds. */
  circuitOf(id: string): CircuitModel {
    return this.circuits.find((circuit) => circuit.id === id) ?? this.circuits[0];
  }

  /** Resolves a measurement of these circuits. @throws BadInput for leads that do not exist */
  probe(measurement: Measurement, where: string): Probe | null {
    return probeOf(this.model, measurement, where);
  }

  /** What sound circuits show for a probe. */
  expectOf(probe: Probe): Expect {
    const { model, columns } = this.usual();
    return expectOf(model, probe, columns);
  }

  private offeredBy(circuit: CircuitModel, conditions: Conditions | undefined, policy: Policy): OfferedTest[] {
    return generateTests(this.model, circuit, conditions, policy).map((procedure): OfferedTest => {
      const probe = this.probe(measurementOf(procedure), procedure.title);
      if (probe === null) throw new Error(`${procedure.id} has no probe`);
      return { procedure, probe, expect: lazy(() => this.expectOf(probe)) };
    });
  }
}
