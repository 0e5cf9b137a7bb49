import { pinWord } from "@fox-lamp/language";
import { PROVES } from "../instruments";
import { type Bench, type Conditions, type Draft, volts } from "./drafts";

/** Looks at connectors, loom, target and part. */
export function looks(bench: Bench): Draft[] {
  const { circuit, connectors } = bench;
  const faults = circuit.built.faults;
  const look = (red: string, title: string, opens: readonly string[], minutes: number, reach: readonly string[], proves: string): Draft => ({
    technique: "look",
    title,
    meter: "look",
    red,
    setup: opens.length === 0 ? {} : { key: "off", open: [...opens] },
    minutes,
    reach,
    opens,
    needs: [],
    proves,
  });
  const drafts = connectors.map((place) =>
    look(place, `Look into the ${place === "sensor" || place === "module" ? `${place} connector` : `connector ${place}`}`, [place], 0.8, [place], PROVES.look),
  );
  if (circuit.paths.some(({ steps }) => steps.length > 0)) drafts.push(look("loom", "Look along the loom", [], 1.5, [], PROVES.look));
  if (faults.some(({ kind }) => kind === "no-target"))
    drafts.push(look("target", "Look at the tone wheel, its seat and its gap", [], 3, ["sensor"], PROVES.target));
  if (faults.some(({ kind }) => kind === "plugged-port")) drafts.push(look("part", "Look at the port and its hose", [], 1.5, ["sensor"], PROVES.look));
  return drafts;
}

/** How a quantity is measured without the circuit, and the minutes it takes. */
const GAUGES = {
  temperature: [
    { red: "part", technique: "T7", title: "Measure the true temperature beside the sensor with a thermometer", minutes: 2.5 },
    { red: "twin", technique: "T11", title: "Compare: the value of another sensor that has been standing at the same temperature", minutes: 1 },
  ],
  weather: [{ red: "part", technique: "T11", title: "Compare: today's air pressure from weather report and altitude", minutes: 1 }],
  pressure: [{ red: "part", technique: "T7", title: "Measure the true pressure with a gauge on the same line", minutes: 6 }],
} as const;

/** The sensed quantity measured without the circuit, where it is not known yet (T7, T11). */
export function gauges({ circuit }: Bench, conditions: Conditions): Draft[] {
  const { quantity, outsideAir } = circuit.built.world;
  if ((quantity !== "temperature" && quantity !== "pressure") || conditions[quantity] !== undefined) return [];
  const ways = quantity === "temperature" ? GAUGES.temperature : outsideAir ? GAUGES.weather : GAUGES.pressure;
  return ways.map(({ red, technique, title, minutes }) => ({
    technique,
    title,
    meter: "gauge",
    red,
    setup: {},
    unit: circuit.built.world.unit,
    minutes,
    reach: [],
    opens: [],
    needs: [],
    proves: technique === "T11" ? PROVES.compare : PROVES.gauge,
  }));
}

/** Where a wire passes an inline connector: the line before it with everything behind it unplugged there (T13). */
export function splits({ circuit, ofRole, path }: Bench): Draft[] {
  const inline = circuit.circuit.inline ?? [];
  return ofRole("reference", "feed").flatMap(({ pin }) =>
    inline.flatMap((place): Draft[] => {
      if (!path(pin).places.has(place)) return [];
      return [
        volts("T13", `${pinWord(pin, true)} before ${place} with ${place} unplugged`, `${pin}@${place}`, "bat-", { open: [place] }, [place], {
          proves: PROVES.isolate,
          minutes: 1.2,
        }),
      ];
    }),
  );
}

/** A reference that several sensors share: each place of its own wire, and everything unplugged at once (T13). */
export function busTests(bench: Bench, members: readonly { readonly id: string; readonly pin: string }[]): Draft[] {
  if (bench.circuit.family.traits.kind !== "reference" || members.length === 0) return [];
  const open = [...new Set(members.map(({ id }) => `${id}:sensor`))];
  return members.slice(0, 1).map(({ id, pin }) =>
    volts("T13", `Shared ${pinWord("ref")} at the ${id} connector with every branch unplugged`, `${id}:${pin}@sensor`, "bat-", { open }, open, {
      proves: PROVES.isolate,
      minutes: 1 + 0.5 * open.length,
    }),
  );
}
