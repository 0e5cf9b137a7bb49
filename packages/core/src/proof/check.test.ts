import type { Diagnosis, Reading } from "@fox-lamp/language";
import { FAMILIES } from "../circuit";
import { type DiagnosedJob, diagnoseJob, possibleMeasurements, Session } from "../diagnosis";
import { type Random, seededRandom } from "../numeric";
import { drawCar, STEADY, trialCircuits } from "../practice";
import { checkProof } from "./index";

const session = new Session();

/** A job on a hidden car with some of the tests it could have had, in any order, one in fifteen of them slipped. */
function randomJob(random: Random): DiagnosedJob {
  const family = FAMILIES[random.below(FAMILIES.length)]?.id ?? "";
  const car = drawCar(trialCircuits(family, random), random, { ...STEADY, double: random.uniform() < 0.2 });
  const tests = possibleMeasurements({ circuits: [...car.circuits], conditions: car.stated }, session);
  const readings = Array.from({ length: 2 + random.below(7) }, (_, index): Reading => {
    const { measurement } = tests[random.below(tests.length)] as (typeof tests)[number];
    const value = car.read(measurement);
    const slipped = random.uniform() < 1 / 15 && typeof value === "number" ? 1000 * value : value;
    return { ...measurement, id: `r${index + 1}`, value: slipped };
  });
  return { circuits: [...car.circuits], readings, conditions: car.stated };
}

describe("a proof", () => {
  it("holds in every sentence, over random jobs", () => {
    const random = seededRandom(20261127);
    for (let index = 0; index < 16; index += 1) {
      const job = randomJob(random);
      expect([index, checkProof(job, diagnoseJob(job, session), session)]).toEqual([index, []]);
    }
  });

  it("is found out where it says too much", () => {
    const circuits = trialCircuits("thermistor-2w", seededRandom(1));
    const readings: Reading[] = [
      { id: "a", circuit: "circuit", meter: "volts-dc", red: "sig@sensor", black: "bat-", setup: { open: ["sensor"] }, value: 5.01 },
      {
        id: "b",
        circuit: "circuit",
        meter: "ohms",
        red: "sig@part",
        black: "gnd@part",
        setup: { key: "off", open: ["sensor"], truth: { temperature: 20 } },
        value: "OL",
      },
    ];
    const job: DiagnosedJob = { circuits, readings, codes: [{ code: "P0118", status: "current" }] };
    const diagnosis = diagnoseJob(job, session);
    expect(checkProof(job, diagnosis, session)).toEqual([]);
    const says = (refuted: Diagnosis["verdict"]["refuted"]): string[] =>
      checkProof(job, { ...diagnosis, verdict: { ...diagnosis.verdict, refuted } }, session).map(({ code }) => code);
    // A wire that is open reads the same at the part; a code is no measurement; nothing clears nobody.
    expect(says([{ unit: "circuit/module:input", by: ["a"] }])).toEqual(["not-separated"]);
    expect(says([{ unit: "circuit/wire:sig", by: ["P0118"] }])).toEqual(["cleared-by-code"]);
    expect(says([{ unit: "circuit/wire:sig", by: [] }])).toEqual(["cleared-by-nothing"]);
  });
});
