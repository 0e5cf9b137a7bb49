import type { Expect, Measurement } from "@fox-lamp/language";
import type { CircuitModel, Model } from "../circuit";
import { faultsOf, placeFault } from "../faults";
import { simulateReading } from "../instruments";
import { lazy } from "../numeric";
import { expectHealthy } from "../procedures";

/** What a measurement shows, worked out when it is asked for. */
export interface LimitPoint {
  /** The window of a sound circuit. @throws BadInput for leads that are not there */
  readonly expect: () => Expect | null;
  /** Faults of the circuit and what each of middle severity makes it show; those that show no number are left out. */
  readonly shown: () => readonly { readonly id: string; readonly value: number }[];
}

/** What a measurement on a circuit shows. */
export function limitPoint(model: Model, circuit: CircuitModel, measurement: Measurement): LimitPoint {
  return {
    expect: lazy(() => expectHealthy(model, measurement, "limit")),
    shown: lazy(() => {
      const known = faultsOf(model);
      return known
        .filter((fault) => fault.matters && fault.during === null && fault.circuit === circuit.id)
        .flatMap(({ id }) => {
          const value = simulateReading(model, measurement, [placeFault(model, known, { id }, "fault")], "limit");
          return typeof value === "number" ? [{ id, value }] : [];
        });
    }),
  };
}
