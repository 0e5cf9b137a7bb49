import { readFileSync } from "node:fs";
import { buildModel, type CircuitModel, completeSheets, FAMILIES, type Tolerance } from "../src/circuit";
import { HEALTHY_PRIOR, PRIOR_WEIGHTS } from "../src/faults/priors";
import { CAR_SPREADS, CONTACT_SIGMA } from "../src/instruments/car-spreads";
import { AMPLITUDE_SPREAD, BLOW_AMPLITUDE, PART_AMPLITUDE, WANTED_SWING } from "../src/instruments/records/edges";

/** What the page says after its tables, written by hand. */
const HAND = new URL("../../../docs/priors-by-hand.md", `file://${__filename}`);

const share = (sigma: number): string => `x ${Math.exp(2 * sigma).toFixed(2)} either way`;

/** How wide 95 of 100 lie, in words. */
function spread(tolerance: Tolerance): string {
  const said = tolerance.targets.map(({ field, kind, sigma }) =>
    kind === "relative" ? share(sigma) : `± ${Number((2 * sigma).toPrecision(2))} ${field === "volts" ? "V" : "of full scale"}`,
  );
  return [...new Set(said)].join(", ");
}

function row(family: string, circuit: CircuitModel): string[] {
  return circuit.built.tolerances.map((tolerance) => {
    const what = tolerance.targets.map(({ element }) => element).join(", ");
    return `| ${family} | ${what} | ${spread(tolerance)} | ${tolerance.unsaid !== undefined ? "the sheet is silent: what sound cars differ by" : "parts of one kind"} |`;
  });
}

const circuitOf = (family: string, whole: boolean): CircuitModel => {
  const bare = [{ id: "x", family }];
  return buildModel(whole ? completeSheets(bare) : bare).circuits[0] as CircuitModel;
};

/** The page docs/priors.md: how often damage is met, and how much sound cars differ, with where that is taken from. */
export function priorsPage(): string {
  const weights = Object.entries(PRIOR_WEIGHTS).map(([name, weight]) => `| ${name.split("/").join(" | ")} | ${weight} |`);
  return [
    "# Priors",
    "",
    "Generated: `UPDATE_DOCS=yes npx jest docs` writes this page from the code and from `priors-by-hand.md`, and the tests compare it.",
    "",
    "## How often damage is met",
    "",
    `Before any reading, per thousand cases. They order the search; a verdict never rests on them. With nothing wrong: ${100 * HEALTHY_PRIOR} % of jobs.`,
    "",
    "| where | kind | weight |",
    "| --- | --- | --- |",
    ...weights,
    "",
    "## How much sound cars differ",
    "",
    "95 of 100 sound cars lie within. Each line is a variable of its own that all readings of a job share, but for contacts and wires.",
    "",
    "| what | 95 of 100 | taken from |",
    "| --- | --- | --- |",
    ...CAR_SPREADS.map(({ what, field, sigma, why }) => {
      const width = field === "ohms" ? share(sigma) : `± ${Number((2 * sigma).toPrecision(2))}${field === "volts" ? " V" : ""}`;
      return `| ${what} | ${width} | ${why} |`;
    }),
    `| contacts and wires | ${share(CONTACT_SIGMA)} | parts differ by a factor of four; a straight line needs more |`,
    `| amplitude of an inductive sensor | ${share(Math.hypot(PART_AMPLITUDE.sine, AMPLITUDE_SPREAD.sine))} | 0.2 to 5 V while cranking |`,
    `| ring of a piezo | ${share(Math.hypot(PART_AMPLITUDE.ring, BLOW_AMPLITUDE.ring, AMPLITUDE_SPREAD.ring))} | a tap makes 10 mV to 5 V by blow, place and instrument |`,
    `| swing an inductive sensor's module wants before it counts | ${share(WANTED_SWING.sine)} | made for one kind of sensor, on no sheet |`,
    `| ring a module wants before it hears a piezo | ${share(WANTED_SWING.ring)} | it knows its engine's noise, on no sheet |`,
    `| ring of one twin against another, one blow | ${share(Math.SQRT2 * PART_AMPLITUDE.ring)} | twins stay within a factor of three |`,
    "",
    "## How much circuits differ",
    "",
    "First with a sheet that says everything, then what is added where it says nothing. A parameter with a value is this car's; one that is left",
    "out is the family's, and wide.",
    "",
    "| family | element | 95 of 100 | why |",
    "| --- | --- | --- | --- |",
    ...FAMILIES.flatMap(({ id }) => row(id, circuitOf(id, true))),
    ...FAMILIES.flatMap(({ id }) => row(id, circuitOf(id, false)).filter((line) => line.includes("silent"))),
    "",
    "## Kinds of sound circuits a silent sheet may mean",
    "",
    "They lie too far apart for one spread; the readings choose among them.",
    "",
    "| family | meant | share |",
    "| --- | --- | --- |",
    ...FAMILIES.flatMap(({ id, alternatives }) =>
      (alternatives?.(() => true, {}) ?? []).map(
        ({ with: meant, weight }) => `| ${id} | ${JSON.stringify(meant).replaceAll('"', "")} | ${(100 * weight).toFixed(0)} % |`,
      ),
    ),
    "",
    readFileSync(HAND, "utf8").trim(),
    "",
  ].join("\n");
}
