import { spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { buildModel, type CircuitModel, FAMILIES } from "@fox-lamp/core/circuit";
import { faultsOf, placeFault } from "@fox-lamp/core/faults";
import { measurementDeck, portsOf, probeOf, shownVolts, solveSetup } from "@fox-lamp/core/instruments";
import { seededRandom } from "@fox-lamp/core/numeric";
import { drawSeverity } from "@fox-lamp/core/practice";
import { generateTests, measurementOf } from "@fox-lamp/core/procedures";

export interface SpiceComparison {
  readonly decks: number;
  /** Largest difference of the read voltage, relative to one volt or to itself where larger. */
  readonly worst: number;
  readonly worstCase: string;
  readonly failed: number;
}

/** Node voltages of a batch run, by lower-case name. */
function parseNodes(output: string): Map<string, number> {
  const nodes = new Map<string, number>();
  for (const line of output.split("\n")) {
    const match = /^\s*([a-z0-9_#]+)\s+(-?\d\.\d+e[+-]\d+)\s*$/iu.exec(line);
    if (match) nodes.set((match[1] ?? "").toLowerCase(), Number(match[2]));
  }
  return nodes;
}

/** Solves decks of random faults and setups with an independent simulator and compares the voltage at the leads. */
export function compareWithSpice(decks: number, seed: number): SpiceComparison | null {
  if (spawnSync("ngspice", ["--version"]).error) return null;
  const random = seededRandom(seed);
  const folder = mkdtempSync(join(tmpdir(), "fox-lamp-decks-"));
  let worst = 0;
  let worstCase = "";
  let failed = 0;
  try {
    for (let index = 0; index < decks; index += 1) {
      const family = FAMILIES[index % FAMILIES.length];
      if (!family) break;
      const model = buildModel([{ id: "x", family: family.id }]);
      const faults = faultsOf(model);
      const fault = faults[random.below(faults.length)];
      const tests = generateTests(model, model.circuits[0] as CircuitModel, { temperature: 20 }).filter(
        ({ meter }) => meter === "volts-dc" || meter === "scan",
      );
      const test = tests[random.below(tests.length)];
      if (!fault || !test) continue;
      const measurement = measurementOf(test);
      const severity = drawSeverity(fault, random);
      const placed = placeFault(model, faults, { id: fault.id, ...(fault.severity === null ? {} : { [fault.severity.key]: severity }) }, "fault");
      const probe = probeOf(model, measurement, "measurement");
      if (probe?.kind !== "electrical") continue;
      const [port] = portsOf(solveSetup(model, probe, [placed]), probe.red, probe.black);
      if (port === undefined) continue;
      const ours = test.meter === "scan" ? port.openVolts : shownVolts(port);
      const deck = measurementDeck(model, measurement, [placed], "measurement");
      const path = join(folder, `${index}.cir`);
      writeFileSync(path, deck);
      const run = spawnSync("ngspice", ["-b", path], { encoding: "utf8" });
      const nodes = parseNodes(run.stdout);
      const [, red = "", black = ""] = /\* red=(\S+) black=(\S+)/u.exec(deck) ?? [];
      const at = (node: string): number => (node === "0" ? 0 : (nodes.get(node) ?? Number.NaN));
      const theirs = at(red) - at(black);
      const difference = Math.abs(theirs - ours) / Math.max(1, Math.abs(ours));
      if (Number.isNaN(difference)) failed += 1;
      else if (difference > worst) {
        worst = difference;
        worstCase = `${family.id} ${fault.id} ${test.title}: ours ${ours.toPrecision(7)}, theirs ${theirs.toPrecision(7)}`;
      }
    }
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
  return { decks, worst, worstCase, failed };
}
