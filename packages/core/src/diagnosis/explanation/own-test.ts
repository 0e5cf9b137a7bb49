import { BadInput, type Measurement, type NextTest } from "@fox-lamp/language";
import { ownProcedure } from "../../procedures";
import { openCase } from "../decision/open-case";
import { joinedByLeads } from "../hypotheses/joined";
import type { DiagnosedJob } from "../inference/diagnosed-job";
import { offPlugs } from "../inference/found-off";
import { complaintNow } from "../inference/presence";
import type { Session } from "../inference/session";
import { comesAndGoes } from "../posterior/weighed-job";
import { believe } from "../value-of-information/belief";
import { informationBits, outcomesOf } from "../value-of-information/outcomes";
import { minutesOf } from "../value-of-information/price";
import { workDoneOf } from "../value-of-information/work-done";
import { askedOf, nextTestOf } from "./next";

/** Nothing can be said beforehand of what a test will show. */
const UNFORESEEN = {
  expect: { low: null, high: null, unit: "" },
  gainBits: 0,
  why: "Nothing can be said beforehand; what is found is kept in the record.",
  ifLow: null,
  ifExpected: null,
  ifHigh: null,
  outcomes: [],
} satisfies Partial<NextTest>;

/**
 * What a test that somebody put together himself would show and tell, as the advice says it of its own.
 * @throws BadInput for a measurement that cannot be
 */
export function ownTest(job: DiagnosedJob, measurement: Measurement, session: Session): NextTest {
  const across = joinedByLeads([{ owner: measurement.circuit ?? job.circuits[0]?.id ?? "", measurement }]).length > 0;
  const opened = openCase(across ? { ...job, asks: [measurement] } : job, session);
  const { joint, clusters, onlyCircuit } = opened;
  const id = measurement.circuit ?? (onlyCircuit === "" ? undefined : onlyCircuit);
  const index = joint.circuits.findIndex(({ inference }) => inference.circuits.some((circuit) => circuit.id === id));
  const posterior = joint.circuits[index];
  const part = clusters[index];
  if (posterior === undefined || part === undefined) {
    const known = job.circuits.map((circuit) => circuit.id).join(", ");
    throw new BadInput({ code: "circuit:unknown", where: "measurement.circuit", message: `no circuit is called "${id ?? ""}"; expected one of ${known}` });
  }
  const { inference, observations, evidence, weights } = posterior;
  const asked: Measurement = { ...measurement, circuit: id };
  const probe = inference.probe(asked, "measurement");
  const procedure = ownProcedure(inference.model, asked, "measurement");
  const passing = comesAndGoes(job);
  const access = (circuit: string) => inference.circuitOf(circuit).circuit.access;
  const minutes = minutesOf({ procedure }, access, workDoneOf(part.own, onlyCircuit, job, new Set(), passing, inference.basis.conditions));
  // What says nothing of this circuit is done and kept all the same.
  if (probe === null) return { ...askedOf(procedure, minutes), ...UNFORESEEN };
  const belief = believe(inference.grid, inference.columns, observations, evidence, weights, () => true, passing ? complaintNow(part.own) : null);
  const [table] = inference.tablesFor(
    [{ key: `${procedure.circuit} ${procedure.id}`, probe }],
    belief.active.map(({ cell }) => cell),
  );
  if (table === undefined) throw new Error("a probe has a table");
  const outcomes = outcomesOf(belief, table);
  const gainBits = informationBits(outcomes, new Float64Array(inference.grid.units.length).fill(1));
  const expect = inference.basis.expectOf(probe);
  const offered = { procedure, probe, expect: () => expect };
  return nextTestOf(
    posterior,
    { offered, outcomes, gainBits, minutes, score: gainBits / minutes, along: [] },
    { plugs: offPlugs(opened.numbered, onlyCircuit) },
  );
}
