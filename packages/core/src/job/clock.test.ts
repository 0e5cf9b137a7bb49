import { minutesToVerdict } from "./clock";
import { foldJob } from "./fold";

const at = (time: string): string => `2026-03-02T${time}:00Z`;
let made = 0;
const entry = (kind: string, time: string, body: object) => {
  made += 1;
  return { id: `e${String(made).padStart(3, "0")}`, at: at(time), by: "Wren", kind, body, seq: made } as never;
};
const reading = (time: string) => entry("reading", time, { reading: { circuit: "ect", meter: "volts-dc", red: "sig@sensor", black: "bat-", value: 5 } });
const verdict = (time: string) => entry("decision", time, { decision: "proven", unit: "ect/sensor" });
const minutes = (...entries: never[]) => minutesToVerdict(foldJob(entries));

describe("minutes to a verdict", () => {
  it("run on the clock from the first reading to the verdict", () => expect(minutes(reading("08:00"), reading("08:12"), verdict("08:20"))).toBe(20));
  it("leave out pauses of more than an hour", () => expect(minutes(reading("08:00"), reading("08:10"), reading("13:00"), verdict("13:05"))).toBe(15));
  it("end with the first verdict, whatever came later", () => expect(minutes(reading("08:00"), verdict("08:05"), reading("09:00"), verdict("09:30"))).toBe(5));
  it("are not known where nothing was read or nothing proven, or where no clock ran", () => {
    expect(minutes(reading("08:00"))).toBeNull();
    expect(minutes(verdict("08:00"))).toBeNull();
    expect(minutes(reading("08:00"), verdict("08:00"))).toBeNull();
  });
});
