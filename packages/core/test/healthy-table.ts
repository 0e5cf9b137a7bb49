import { buildModel, type CircuitModel, FAMILIES } from "../src/circuit";
import { simulateReading } from "../src/instruments";
import { expectHealthy, generateTests, measurementOf, type Procedure } from "../src/procedures";
import { formatQuantity, formatWindow } from "../src/units";

const CONDITIONS = { temperature: 20, pressure: 100 };
/** Kinds of test worth a line of the table: data, feed, ground, the sensor unplugged, its resistance, its rhythm. */
const LISTED: readonly Procedure["technique"][] = ["T1", "T2", "T4", "T5", "T7", "T9", "T12"];

function shown(value: unknown, unit: string): string {
  if (typeof value === "number") return formatQuantity(value, unit);
  if (typeof value === "object" && value !== null && "min" in value && "max" in value)
    return `${formatQuantity(Number(value.min), unit)} to ${formatQuantity(Number(value.max), unit)}`;
  return String(value);
}

function worthALine({ technique, meter, title, setup, red }: Procedure): boolean {
  if (!LISTED.includes(technique) || meter === "look") return false;
  if (technique === "T7") return red.endsWith("@part");
  return !title.includes("at the module") && (setup.add ?? []).length === 0;
}

/** Healthy readings of every family at its default parameters, as the page docs/healthy-readings.md shows them. */
export function healthyPage(): string {
  const lines = [
    "# Healthy readings",
    "",
    "Computed from the circuits, at default parameters, 20 degC and 100 kPa where it matters; the window holds 99 of 100 healthy circuits",
    "with a usual meter. Generated: `UPDATE_DOCS=yes npx jest families` writes this page, and the tests compare it.",
  ];
  for (const family of FAMILIES) {
    const model = buildModel([{ id: "x", family: family.id }]);
    const circuit = model.circuits[0] as CircuitModel;
    lines.push("", `## ${family.id}: ${family.title}`, "", family.summary, "", "| test | healthy | window |", "| --- | --- | --- |");
    for (const test of generateTests(model, circuit, CONDITIONS).filter(worthALine)) {
      const measurement = measurementOf(test);
      const expect = expectHealthy(model, measurement, "m");
      const value = simulateReading(model, measurement, [], "m");
      const window = expect === null ? "" : (expect.word ?? formatWindow(expect.low, expect.high, expect.unit));
      lines.push(`| ${test.title} | ${shown(value, expect?.unit ?? "")} | ${window} |`);
    }
  }
  return `${lines.join("\n")}\n`;
}
