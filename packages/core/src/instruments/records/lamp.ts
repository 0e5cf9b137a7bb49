import { TEST_LAMP } from "../../circuit";
import { lampAmps, lampVolts } from "../../network";
import { logistic } from "../../numeric";
import type { Port } from "../port";
import { WORDS } from "../scale";
import { averageOf, portsOf } from "../waveform-view";
import { PROVES } from "../wording";
import { drawn, type ElectricalRecord } from "./record";

/** Share of its rated current a test lamp carries across a port. */
export function lampShare(port: Port): number {
  const volts = lampVolts(TEST_LAMP, port.openVolts, port.ohms);
  return Math.abs(lampAmps(TEST_LAMP, volts)) / TEST_LAMP.ratedAmps;
}

const LIT_SHARE = 0.75;
const OUT_SHARE = 0.3;

/** What a person calls a lamp carrying this share of its rated current. */
export function lampWord(share: number): "lit" | "dim" | "out" {
  return share >= LIT_SHARE ? "lit" : share >= OUT_SHARE ? "dim" : "out";
}

/** Probabilities of lit, dim, out with soft edges. */
export function lampProbabilities(share: number): readonly [number, number, number] {
  const lit = logistic((share - LIT_SHARE) / 0.025);
  const out = logistic((OUT_SHARE - share) / 0.025);
  return [lit, Math.max(0, 1 - lit - out), out];
}

/** The small incandescent test lamp: its light is the reading. */
export const lamp: ElectricalRecord = {
  choosing: { word: "test lamp", needs: ["lamp"], minutes: 0.8, technique: "T5", proves: PROVES.loaded },
  scale: () => WORDS,
  words: () => ["lit", "dim", "out"],
  show: (seen, probe, noise) => {
    const ports = portsOf(seen, probe.red, probe.black);
    return lampWord(averageOf(seen, (moment) => lampShare(ports[moment])) * (1 + 0.03 * drawn(noise)));
  },
  predict: (circuit, _probe, leads, _columns, out) => {
    out.words.set(lampProbabilities(averageOf(circuit, (moment) => lampShare(leads.ports[moment]))));
  },
  deck: ({ red, black }) => ({ elements: [{ kind: "lamp", id: "test-lamp", a: red, b: black, ...TEST_LAMP }], lines: ["* lamp"] }),
};
