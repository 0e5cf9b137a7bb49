import { showIn } from "../ui/display";
import { type Asked, valueTyped, wordsOf } from "./typed";

const VOLTS: Asked = { meter: "volts-dc", red: "sig@sensor" };
const OHMS: Asked = { meter: "ohms", red: "sig@part" };
const RECORDED: Asked = { ...VOLTS, record: "min-max" };
const SCAN: Asked = { meter: "scan", red: "sig@module" };

describe("what is typed for a reading", () => {
  afterEach(() => showIn({ temperature: "degC", pressure: "kPa" }));
  it.each<[string, Asked, unknown]>([
    ["4.98", VOLTS, { ok: true, value: 4.98 }],
    ["180m", VOLTS, { ok: true, value: 0.18 }],
    ["250 mV", VOLTS, { ok: true, value: 0.25 }],
    ["4k7", OHMS, { ok: true, value: 4700 }],
    ["OL", OHMS, { ok: true, value: "OL" }],
    ["0.7 to 4.1", VOLTS, { ok: true, value: { min: 0.7, max: 4.1 } }],
    ["-250m to 250m", RECORDED, { ok: true, value: { min: -0.25, max: 0.25 } }],
    ["90k, 120k", OHMS, { ok: true, value: { min: 90_000, max: 120_000 } }],
    ["0.7 to 4.1 avg 2.2", RECORDED, { ok: true, value: { min: 0.7, max: 4.1, avg: 2.2 } }],
    ["Lit", { meter: "lamp", red: "bat+" }, { ok: true, value: "lit" }],
    ["looks fine", { meter: "look", red: "sensor" }, { ok: true, value: "ok" }],
    ["45 %", { meter: "duty", red: "ctl@sensor" }, { ok: true, value: 45 }],
    ["850 hz", { meter: "hertz", red: "sig@sensor" }, { ok: true, value: 850 }],
  ])("%s", (text, asked, entered) => expect(valueTyped(text, asked)).toEqual(entered));

  it("in a unit of its own is kept in that unit", () => {
    expect(valueTyped("21 degC", SCAN, "degC")).toEqual({ ok: true, value: 21, unit: "degC" });
    expect(valueTyped("21 degC", { ...SCAN, unit: "degC" })).toEqual({ ok: true, value: 21 });
  });
  it("without a unit is in what this device shows", () => {
    showIn({ temperature: "degF", pressure: "kPa" });
    expect(valueTyped("212", { meter: "gauge", red: "part", unit: "degC" })).toEqual({ ok: true, value: 100 });
    expect(valueTyped("100 °C", { meter: "gauge", red: "part", unit: "degC" })).toEqual({ ok: true, value: 100 });
  });
  it.each<[string, Asked, RegExp]>([
    ["OL", VOLTS, /OL is a reading in ohms/u],
    ["4.98 Hz", VOLTS, /in V, not in Hz/u],
    ["4.98", RECORDED, /"4\.98" is one number; expected the lowest and the highest/u],
    ["lit to out", { meter: "lamp", red: "bat+" }, /"lit"/u],
    ["twelve", VOLTS, /"twelve" is not a reading/u],
  ])("%s is refused in one sentence", (text, asked, message) => {
    const answer = valueTyped(text, asked);
    expect(answer.ok ? "" : answer.message).toMatch(message);
  });
  it("has the words of its instrument", () => {
    expect(wordsOf({ meter: "lamp", red: "bat+" })).toEqual(["lit", "dim", "out"]);
    expect(wordsOf(OHMS)).toEqual(["OL", "live"]);
    expect(wordsOf(VOLTS)).toEqual([]);
    expect(wordsOf({ meter: "look", red: "loom" })).toContain("chafed");
  });
});
