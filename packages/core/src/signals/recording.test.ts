import { findingsOf } from "./index";

const seconds = Array.from({ length: 40 }, (_, index) => index / 2);
const ramp = seconds.map((time) => 800 + (time > 5 && time < 15 ? 1800 : 0));
const speed = { name: "engine speed", circuit: null, unit: "rpm", values: ramp };
const channel = (name: string, unit: string, values: (number | null)[], circuit = name.split(".")[0] ?? null) => ({ name, circuit, unit, values });
const codes = (...channels: ReturnType<typeof channel>[]) =>
  findingsOf({ title: "t", seconds, channels: [speed, ...channels] }).map(({ code, channel: name }) => `${code} ${name}`);

describe("findings on a recording", () => {
  it("says nothing of sound data", () => {
    expect(
      codes(
        channel(
          "tps.sig",
          "%",
          ramp.map((rpm) => rpm / 40),
        ),
        channel(
          "ect.sig",
          "degC",
          seconds.map(() => 88),
        ),
      ),
    ).toEqual([]);
  });
  it("finds a short dropout and when it was", () => {
    const values = seconds.map((_, index) => (index === 20 || index === 21 ? 0 : 45 + (index % 2)));
    const [found] = findingsOf({ title: "t", seconds, channels: [channel("egr.sig", "kPa", values)] });
    expect(found).toMatchObject({ code: "dropout", from: 10, to: 11 });
    expect(found?.sentence).toContain("to 0 kPa at 10.0 s for 1.0 s");
  });
  it("finds a channel that falls silent for a moment", () => {
    expect(
      codes(
        channel(
          "map.sig",
          "kPa",
          seconds.map((_, index) => (index === 9 ? null : 40 + index / 10)),
        ),
      ),
    ).toEqual(["dropout map.sig"]);
  });
  it("does not call a long change a dropout", () => {
    expect(
      codes(
        channel(
          "map.sig",
          "kPa",
          ramp.map((rpm) => rpm / 25),
        ),
      ),
    ).toEqual([]);
  });
  it("finds what stands still while the engine does not", () => {
    expect(
      codes(
        channel(
          "tps.sig",
          "%",
          seconds.map(() => 0),
        ),
      ),
    ).toEqual(["still tps.sig"]);
  });
  it("finds a value no sound circuit shows", () => {
    expect(
      codes(
        channel(
          "ect.sig",
          "degC",
          seconds.map(() => -40),
        ),
      ),
    ).toEqual(["implausible ect.sig"]);
  });
  it("finds twins that differ, and leaves those that agree", () => {
    const one = channel(
      "bank 1 knock",
      "V",
      seconds.map(() => 1),
    );
    expect(
      codes(
        one,
        channel(
          "bank 2 knock",
          "V",
          seconds.map(() => 0.4),
        ),
      ),
    ).toEqual(["twin-differs bank 1 knock"]);
    expect(
      codes(
        one,
        channel(
          "bank 2 knock",
          "V",
          seconds.map(() => 1.05),
        ),
      ),
    ).toEqual([]);
  });
  it("finds an actual value that does not follow the desired one", () => {
    const desired = channel(
      "desired cam angle",
      "deg",
      ramp.map((rpm) => rpm / 100),
    );
    expect(
      codes(
        desired,
        channel(
          "actual cam angle",
          "deg",
          seconds.map((time) => 5 + Math.sin(9 * time)),
        ),
      ),
    ).toEqual(["not-following actual cam angle"]);
    expect(
      codes(
        desired,
        channel(
          "actual cam angle",
          "deg",
          ramp.map((rpm) => rpm / 101),
        ),
      ),
    ).toEqual([]);
  });
});
