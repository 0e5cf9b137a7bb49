import type { Case } from "./case";
import { isMisfit } from "./fit";
import { kindTests } from "./kind-tests";
import type { RankedPart } from "./standing";
import { bareStatus, type Status } from "./status";

/**
 * What may be declared: proven, nothing found, contradiction; else the search goes on, as it does while a test is owed. Nobody is condemned
 * who explains the readings only with a circuit hardly anybody builds: what the sheet leaves out is looked up first. Nor is anybody proven whom
 * the readings fit badly, though all others fit worse.
 */
export function statusOf(opened: Case): Status {
  const status = bareStatus(opened, opened.standing(), opened.stake());
  if (status !== "proven") return status;
  if (isMisfit(opened.fit())) return "unknown-fault";
  return opened.owed().length > 0 || opened.standing().strained().length > 0 || opened.hangs().length > 0 ? "narrowing" : "proven";
}

/** What could be done now, the best first: before a leader is declared, what is owed for that, and what shows the kind of circuit it hangs on. */
export function testsNow(opened: Case): readonly RankedPart[] {
  const standing = opened.standing();
  if (bareStatus(opened, standing, opened.stake()) !== "proven") return standing.tests;
  const owed = opened.owed();
  if (owed.length > 0) return owed.map((part) => ({ ...part, cause: "owed" }));
  const telling = kindTests(opened, standing, [...opened.hangs(), ...standing.strained()]);
  return telling.length > 0 ? telling : standing.tests;
}
