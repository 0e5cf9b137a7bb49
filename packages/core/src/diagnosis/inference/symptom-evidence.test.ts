import type { Circuit, Reading } from "@fox-lamp/language";
import { inferenceOf } from "./inference";
import { symptomObservations } from "./symptom-evidence";

const CIRCUITS: Circuit[] = [{ id: "ect", family: "thermistor-2w", inline: ["C1"] }];
const inference = inferenceOf(CIRCUITS);
const read = (symptom: boolean | undefined, at?: string): Reading =>
  ({
    circuit: "ect",
    meter: "scan",
    red: "sig@module",
    setup: at === undefined ? {} : { stimulus: { kind: "wiggle", at } },
    value: 2.5,
    ...(symptom === undefined ? {} : { symptom }),
  }) as Reading;

/** What moving says of the complaint after each reading; the word, and whether it speaks for a contact of the sensor's plug rather than the sensor. */
function said(...readings: readonly Reading[]): [string, boolean][] {
  const own = readings.map((reading, index) => ({ reading, id: `r${index}`, where: "" }));
  return symptomObservations(inference, own, "ect").map(({ observation: { table, word } }) => {
    const shareOf = (unit: string): number => {
      const fault = inference.grid.faults.findIndex((one) => one?.unit === unit);
      const cell = inference.grid.fault.indexOf(fault);
      return table.words[2 * cell + word] as number;
    };
    return [table.wordNames[word] as string, shareOf("ect/contact:sig@sensor") > shareOf("ect/sensor")];
  });
}

describe("moving a place while the complaint is watched", () => {
  it("accuses the place where the complaint comes, and clears the one where it does not", () => {
    expect(said(read(false), read(true, "sensor"))).toEqual([["shown", true]]);
    expect(said(read(false), read(false, "sensor"))).toEqual([["not shown", false]]);
  });
  it("accuses the place as well where the complaint goes", () => {
    expect(said(read(true), read(false, "sensor"))).toEqual([["shown", true]]);
    expect(said(read(true), read(false, "C1"))).toEqual([["shown", false]]);
  });
  it("says nothing of a complaint that was there before and stays, or of which nothing is stated", () => {
    expect(said(read(true), read(true, "sensor"))).toEqual([]);
    expect(said(read(undefined), read(undefined, "sensor"))).toEqual([]);
    expect(said(read(true), read(false))).toEqual([]);
  });
});
