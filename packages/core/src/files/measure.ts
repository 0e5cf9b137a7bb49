import { BadInput, type Circuit, type Expect, METERS, type MeasureFile, type Measurement, type Value } from "@fox-lamp/language";
import { buildModel, type Model } from "../circuit";
import { type Fault, faultsOf, type PlacedFault, placeFault } from "../faults";
import { blownJumpers, harmOf, measurementDeck, simulateReading } from "../instruments";
import { expectHealthy } from "../procedures";

/** A measurement with what it shows on the file's car, and what a healthy circuit shows. */
export type Measured = Measurement & { readonly value: Value; readonly expect: Expect | null; readonly warnings?: readonly string[] };

/** A file's car with its faults. @throws BadInput for circuits or faults that cannot be */
export function placed(file: Pick<MeasureFile, "circuits" | "faults">): { model: Model; faults: PlacedFault[] } {
  const model = buildModel(file.circuits);
  const known = faultsOf(model);
  return { model, faults: (file.faults ?? []).map((reference, index) => placeFault(model, known, reference, `faults[${index}]`)) };
}

/** Every fault that matters of some circuits, in the language's words. @throws BadInput for circuits that cannot be */
export function listFaults(circuits: readonly Circuit[]): Pick<Fault, "id" | "unit" | "title" | "severity" | "prior">[] {
  return faultsOf(buildModel(circuits))
    .filter(({ matters }) => matters)
    .map(({ id, unit, title, severity, prior }) => ({ id, unit, title, severity, prior: Number(prior.toPrecision(4)) }));
}

/** Measures a file's car at nominal parameters. @throws BadInput for what cannot be measured */
export function measureFile(file: MeasureFile): Measured[] {
  const { model, faults } = placed(file);
  return file.measurements.map((measurement, index): Measured => {
    const where = `measurements[${index}]`;
    const value = simulateReading(model, measurement, faults, where);
    if (value === null) {
      throw new BadInput({
        code: "measure:meter",
        where: `${where}.meter`,
        message: `"${measurement.meter}" cannot be computed here; expected ${METERS.filter((meter) => meter !== "look").join(", ")}`,
      });
    }
    const warnings = [...harmOf(model, measurement), ...blownJumpers(model, measurement, faults, where)];
    return { ...measurement, value, expect: expectHealthy(model, measurement, where), ...(warnings.length === 0 ? {} : { warnings }) };
  });
}

/** The first measurement of a file as a SPICE deck. @throws BadInput for one without a working point */
export function netlistOf(file: MeasureFile): string {
  const { model, faults } = placed(file);
  const [first] = file.measurements;
  if (first === undefined) throw new BadInput({ code: "netlist:none", where: "measurements", message: "expected at least one measurement" });
  return measurementDeck(model, first, faults, "measurements[0]");
}
