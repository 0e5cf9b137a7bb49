import { BadInput, type Measurement, type NextTest } from "@fox-lamp/language";
import { expectOf, ownProcedure } from "../tests";
import { minutesOf } from "./advice";
import type { EngineCache } from "./cache";
import { comesAndGoes } from "./case";
import type { DiagnosedJob } from "./job-part";
import { nextTestOf } from "./next";
import { openCase } from "./open-case";
import { believe, informationBits, outcomesOf } from "./outcomes";
import { progressOf } from "./progress";

/**
 * What a test that somebody put together himself would show and tell, as the advice says it of its own.
 * @throws BadInput for a measurement that cannot be
 */
export function ownTest(job: DiagnosedJob, measurement: Measurement, cache: EngineCache): NextTest {
  const opened = openCase(job, cache);
  const { joint, parts, whole } = opened;
  const id = measurement.circuit ?? (whole === "" ? undefined : whole);
  const index = joint.circuits.findIndex(({ engine }) => engine.circuits.some((circuit) => circuit.id === id));
  const posterior = joint.circuits[index];
  const part = parts[index];
  if (posterior === undefined || part === undefined) {
    const known = job.circuits.map((circuit) => circuit.id).join(", ");
    throw new BadInput({ code: "circuit:unknown", where: "measurement.circuit", message: `no circuit is called "${id ?? ""}"; expected one of ${known}` });
  }
  const { engine, observations, evidence, weights } = posterior;
  const asked: Measurement = { ...measurement, circuit: id };
  const probe = engine.probe(asked, "measurement");
  if (probe === null)
    throw new BadInput({ code: "measurement:unpredicted", where: "measurement.meter", message: `nothing can be said beforehand of "${asked.meter}"` });
  const procedure = ownProcedure(engine.model, asked, "measurement");
  const passing = comesAndGoes(job);
  const belief = believe(engine.points, engine.columns, observations, evidence, weights, () => true, passing);
  const [table] = engine.tablesFor(
    [{ key: `${procedure.circuit} ${procedure.id}`, probe }],
    belief.active.map(({ point }) => point),
  );
  if (table === undefined) throw new Error("a probe has a table");
  const outcomes = outcomesOf(belief, table);
  const gainBits = informationBits(outcomes, new Float64Array(engine.points.units.length).fill(1));
  const expect = expectOf(engine.model, probe, engine.columns);
  const offered = { procedure, probe, expect: () => expect };
  const minutes = minutesOf(offered, (circuit) => engine.circuitOf(circuit).circuit.access, progressOf(part.own, whole, job, new Set(), passing));
  return nextTestOf(posterior, { offered, outcomes, gainBits, minutes, score: gainBits / minutes });
}
