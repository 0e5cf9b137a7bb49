import type { Circuit } from "@fox-lamp/language";
import { diagnoseJob } from "../explanation/diagnose";
import { Session } from "./session";

const circuits: Circuit[] = [
  { id: "ect", family: "thermistor-2w" },
  { id: "tps", family: "potentiometer-3w" },
];
const readings = [
  { id: "r1", circuit: "ect", meter: "scan" as const, red: "sig@module", unit: "degC", value: -38 },
  { id: "r2", circuit: "ect", meter: "volts-dc" as const, red: "sig@sensor", black: "bat-", setup: { open: ["sensor"] }, value: 5.01 },
  { id: "r3", circuit: "tps", meter: "volts-dc" as const, red: "ref@sensor", black: "bat-", value: 4.99 },
];
const job = (count: number, more: object = {}) => ({ circuits, readings: readings.slice(0, count), ...more }) as never;

describe("a session", () => {
  it("changes no answer, whatever it holds and however little it may hold", () => {
    const warm = new Session();
    const starved = new Session(1);
    for (const count of [1, 3, 2, 3, 1]) {
      const fresh = diagnoseJob(job(count));
      expect(diagnoseJob(job(count), warm)).toEqual(fresh);
      expect(diagnoseJob(job(count), starved)).toEqual(fresh);
    }
  });
  it("keeps to its budget", () => {
    const budget = 3e6;
    const session = new Session(budget);
    for (const count of [1, 2, 3]) diagnoseJob(job(count), session);
    // The value asked for last may be larger than the whole budget: it is held until the next one.
    expect(session.cache.bytes).toBeLessThan(budget + 3e7);
    expect(session.cache.count).toBeGreaterThan(0);
  });
  it("knows a job again whatever its readings are called", () => {
    const session = new Session();
    diagnoseJob(job(2), session);
    const held = session.cache.count;
    const renamed = { circuits, readings: readings.slice(0, 2).map((reading) => ({ ...reading, id: `new-${reading.id}` })) } as never;
    const { units } = diagnoseJob(renamed, session);
    expect(units).toEqual(diagnoseJob(job(2)).units);
    expect(session.cache.count - held).toBeLessThanOrEqual(1);
  });
  it("keeps what is known of circuits apart", () => {
    const session = new Session();
    const cold = diagnoseJob(job(1, { conditions: { temperature: -38 } }), session);
    const warm = diagnoseJob(job(1, { conditions: { temperature: 20 } }), session);
    expect(cold.next).not.toEqual(warm.next);
    expect(diagnoseJob(job(1, { conditions: { temperature: -38 } }), session)).toEqual(cold);
  });
});
