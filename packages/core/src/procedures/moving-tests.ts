import { type Pin, pinWord, type Setup } from "@fox-lamp/language";
import { engineOf } from "../circuit";
import { PROVES } from "../instruments";
import { type Bench, cautionsOf, type Draft, pluggedPlaces, scan, stateWord, titled, volts } from "./drafts";

/** The setups in which a circuit moves by itself. */
export function movingSetups({ moves, plain }: Bench): Setup[] {
  const setups: Setup[] = [];
  if (moves.still) setups.push(plain);
  if (moves.turning) setups.push({ key: "crank" });
  if (moves.running) setups.push({ key: "idle" });
  if (moves.tapped) setups.push({ stimulus: { kind: "tap" } });
  return setups;
}

function meterDraft(meter: "hertz" | "duty" | "volts-ac", pin: Pin, place: string, black: string, setup: Setup, proves: string): Draft {
  const name = { hertz: "Rate", duty: "Duty", "volts-ac": "AC volts" }[meter];
  return {
    technique: "T9",
    title: titled(`${name} of the ${pinWord(pin)}`, place, stateWord(setup)),
    meter,
    red: `${pin}@${place}`,
    black,
    setup,
    minutes: engineOf(setup).turning ? 1 : 0.8,
    reach: [place],
    opens: [],
    needs: setup.key === "crank" ? ["meter", "helper"] : ["meter"],
    proves,
    cautions: cautionsOf(setup),
  };
}

/** Rates, alternating volts and averages of circuits that move, and whether the module counts them (T1, T9). */
export function rhythms(bench: Bench): Draft[] {
  const { circuit } = bench;
  const drafts: Draft[] = [];
  const { recorded, alternating } = circuit.family.traits;
  const driver = circuit.pins.find(({ role }) => role === "control");
  for (const setup of movingSetups(bench)) {
    for (const { pin, by, units } of circuit.built.reads) {
      const unit = by === "volts" ? undefined : (units[0] ?? "Hz");
      if (unit !== undefined) {
        const subject =
          unit === "taps" ? "Does the module's data show a knock" : by === "counts" ? "Engine speed in the module's data" : "Rate in the module's data";
        const title = titled(subject, null, stateWord(setup));
        drafts.push(
          scan(pin, setup, title, {
            unit,
            proves: by === "counts" ? PROVES.counts : PROVES.scan,
            minutes: 0.6,
            needs: setup.key === "crank" ? ["scan"] : ["scan"],
          }),
        );
      }
    }
    const minus = bench.ofRole("signal").find(({ pin }) => pin === "sig-");
    for (const { pin } of bench.ofRole("signal")) {
      if (pin === "sig-" || recorded) continue;
      for (const place of pluggedPlaces(bench.path(pin))) {
        const black = minus === undefined ? "bat-" : `${minus.pin}@${place}`;
        const drive = alternating ? "sine" : "square";
        if (drive === "square") {
          drafts.push(meterDraft("hertz", pin, place, black, setup, PROVES.rate));
          drafts.push(
            volts("T9", titled(`Average volts of the ${pinWord(pin)}`, place, stateWord(setup)), `${pin}@${place}`, "bat-", setup, [place], {
              proves: PROVES.average,
            }),
          );
        } else drafts.push(meterDraft("volts-ac", pin, place, black, setup, PROVES.ac));
      }
    }
  }
  if (bench.moves.turning) {
    const crank: Setup = { key: "crank" };
    for (const { pin } of bench.ofRole("feed"))
      drafts.push(
        volts("T2", titled(pinWord(pin, true), "sensor", "cranking"), `${pin}@sensor`, "bat-", crank, ["sensor"], { proves: PROVES.loaded, minutes: 1 }),
      );
    for (const { pin } of bench.ofRole("ground"))
      drafts.push(
        volts("T4", titled(`${pinWord(pin, true)} drop`, "sensor", "cranking"), `${pin}@sensor`, "bat-", crank, ["sensor"], {
          proves: PROVES.ground,
          minutes: 1,
        }),
      );
  }
  if (driver === undefined) return drafts;
  return [...drafts, ...driven(bench, driver.pin)];
}

/** Sensors that make their own voltage, measured by themselves: unplugged, on their own terminals, while the engine is cranked or the block tapped (T9). */
export function ownVoltages(bench: Bench): Draft[] {
  const { circuit, moves, part } = bench;
  const knock = circuit.family.traits.kind === "knock";
  const pin = bench.ofRole("signal").find((spec) => spec.pin !== "sig-")?.pin;
  if ((!knock && circuit.family.traits.alternating !== true) || pin === undefined || !bench.path(pin).places.has("part")) return [];
  const back = [...bench.ofRole("signal"), ...bench.ofRole("return", "ground")].find((spec) => spec.pin !== pin && bench.path(spec.pin).places.has("part"));
  const black = back === undefined ? "engine" : `${back.pin}@part`;
  const setups: Setup[] = [
    ...(knock && moves.tapped ? [{ stimulus: { kind: "tap" } } as const] : []),
    ...(!knock && moves.turning ? [{ key: "crank" } as const] : []),
  ];
  return setups.flatMap((state): Draft[] => {
    const setup: Setup = { ...state, open: ["sensor"] };
    const title = titled(`AC volts of the ${part} itself, unplugged`, null, stateWord(setup));
    return [{ ...meterDraft("volts-ac", pin, "part", black, setup, PROVES.itself), title, minutes: 1.2, reach: ["sensor"], opens: ["sensor"] }];
  });
}

/** Flow sensors and manifolds: levels with the engine running (T9). */
export function runningLevels(bench: Bench): Draft[] {
  const { circuit, moves } = bench;
  const { world, reads } = circuit.built;
  const follows = world.forced !== undefined && world.quantity !== "none" && world.quantity !== "level";
  if (!follows || moves.still) return [];
  const states: Setup[] = world.quantity === "flow" ? [{ key: "idle" }, { key: "rev", rpm: 2500 }] : [{ key: "idle" }];
  return states.flatMap((setup) =>
    reads.flatMap(({ pin }) => [
      scan(pin, setup, titled(`What the module reads, ${pinWord(pin)}`, null, stateWord(setup)), { minutes: 0.7 }),
      ...pluggedPlaces(bench.path(pin)).map((place) =>
        volts("T9", titled(`${pinWord(pin, true)}`, place, stateWord(setup)), `${pin}@${place}`, "bat-", setup, [place], { minutes: 0.9 }),
      ),
    ]),
  );
}

/** A signal that switches by itself, as an oxygen sensor's: its ends over twenty seconds, and its answer to a mixture made rich or lean (T9). */
export function oxygenTests(bench: Bench): Draft[] {
  if (!bench.circuit.family.traits.recorded) return [];
  const { settable } = bench.circuit.built.world;
  const idle: Setup = { key: "idle" };
  const record = { record: true, minutes: 1, proves: PROVES.record } as const;
  const drafts: Draft[] = [
    scan("sig", idle, "Lowest and highest module value over twenty seconds, warm, at idle", record),
    ...pluggedPlaces(bench.path("sig")).map((place) =>
      volts("T9", titled("Lowest and highest volts of the signal", place, "warm, at idle"), `sig@${place}`, "bat-", idle, [place], record),
    ),
  ];
  drafts.push({
    ...meterDraft("hertz", "sig", "sensor", "bat-", idle, PROVES.rate),
    title: "Switches a second, counted over twenty seconds, warm, at idle",
    minutes: 1,
  });
  for (const { value, how, minutes } of settable) {
    const setup: Setup = { key: "idle", truth: { level: value > 0.5 ? "high" : "low" } };
    drafts.push(scan("sig", setup, titled("What the module reads, signal", null, how), { technique: "T9", minutes }));
    drafts.push(volts("T9", titled("Signal", "sensor", how), "sig@sensor", "bat-", setup, ["sensor"], { minutes }));
  }
  return drafts;
}

/** Heaters: volts and current while the module drives them (T2, T12). */
export function heaterTests(bench: Bench): Draft[] {
  const control = bench.ofRole("heater-control")[0];
  if (control === undefined) return [];
  const open: Setup = { open: ["sensor"] };
  return [
    volts("T2", "Heater control at the sensor, plugged, key on", "htr-ctl@sensor", "bat-", {}, ["sensor"]),
    volts("T2", "Heater control at the sensor, plugged, while cranking", "htr-ctl@sensor", "bat-", { key: "crank" }, ["sensor"]),
    volts("T2", "Across the heater, plugged, key on", "htr-feed@sensor", "htr-ctl@sensor", {}, ["sensor"], { proves: PROVES.loaded }),
    volts("T5", "Heater feed to heater control at the unplugged connector", "htr-feed@sensor", "htr-ctl@sensor", open, ["sensor"], {
      proves: PROVES.unplugged,
    }),
    clampDraft("htr-feed", "sensor", {}, "Heater current, key on"),
  ];
}

function clampDraft(pin: Pin, place: string, setup: Setup, title: string): Draft {
  return {
    technique: "T12",
    title,
    meter: "amps-dc",
    red: `${pin}@${place}`,
    setup,
    minutes: 1,
    reach: [place],
    opens: [],
    needs: ["clamp"],
    proves: PROVES.amps,
    cautions: cautionsOf(setup),
  };
}

/** A driven part: click, volts and current on command (T12). */
function driven(bench: Bench, control: Pin): Draft[] {
  const setup: Setup = { stimulus: { kind: "command" } };
  const open: Setup = { open: ["sensor"], stimulus: { kind: "command" } };
  const needs = ["scan", "meter"] as const;
  return [
    {
      technique: "T12",
      title: "Listen for a click on command",
      meter: "listen",
      red: "part",
      setup,
      minutes: 0.6,
      reach: [],
      opens: [],
      needs: ["scan"],
      proves: PROVES.command,
      cautions: cautionsOf(setup),
    },
    ...pluggedPlaces(bench.path(control)).map((place) =>
      volts("T12", titled("Average volts of the control", place, "on command"), `${control}@${place}`, "bat-", setup, [place], {
        needs,
        minutes: 0.9,
        proves: PROVES.average,
      }),
    ),
    volts("T12", "Feed at the sensor, on command", "feed@sensor", "bat-", setup, ["sensor"], { needs, minutes: 0.8 }),
    volts("T12", "Battery positive to the control wire at the unplugged connector, on command", "bat+", `${control}@sensor`, open, ["sensor"], {
      needs,
      minutes: 1,
      proves: PROVES.unplugged,
    }),
    { ...clampDraft("feed", "sensor", setup, "Current through the winding, on command"), needs: ["scan", "clamp"] },
  ];
}

/** Moving connectors while something that only works plugged is watched: edges at the module, or current in a winding (T8). */
export function movedWhileRunning(bench: Bench): Draft[] {
  const { circuit, connectors, moves } = bench;
  const main = circuit.built.reads.find(({ by }) => by !== "volts");
  const heater = bench.ofRole("heater-feed")[0]?.pin;
  const feed = bench.ofRole("control").length > 0 ? bench.ofRole("feed")[0]?.pin : undefined;
  const placeWordOf = (place: string): string => (place === "sensor" || place === "module" ? `${place} connector` : place);
  return connectors.flatMap((place): Draft[] => {
    const moved = { kind: "wiggle", at: place } as const;
    const common = { technique: "T8", reach: [place], minutes: 1.3, proves: PROVES.wiggle } as const;
    const drafts: Draft[] = [];
    if (main !== undefined) {
      const setups: Setup[] = moves.still
        ? [{ stimulus: moved }]
        : [{ key: "idle", stimulus: moved }, ...(moves.turning ? [{ key: "crank" as const, stimulus: moved }] : [])];
      const unit = main.units[0] ?? "Hz";
      const subject = unit === "rpm" ? "Engine speed" : unit === "taps" ? "Knock" : "Rate";
      for (const setup of setups) {
        const title = `${subject} in the module's data while the ${placeWordOf(place)} is moved${setup.key === "crank" ? ", cranking" : ""}`;
        drafts.push(scan(main.pin, setup, title, { ...common, unit }));
      }
    }
    if (circuit.family.traits.recorded) {
      drafts.push(
        scan("sig", { key: "idle", stimulus: moved }, `Lowest and highest module value while the ${placeWordOf(place)} is moved, warm, at idle`, {
          ...common,
          record: true,
        }),
      );
    }
    if (heater !== undefined)
      drafts.push({
        ...clampDraft(heater, "sensor", { stimulus: moved }, `Heater current while the ${placeWordOf(place)} is moved`),
        ...common,
        reach: [place, "sensor"],
      });
    if (feed !== undefined) {
      const setup: Setup = { key: "idle", stimulus: moved };
      drafts.push({
        ...clampDraft(feed, "sensor", setup, `Current through the winding while the ${placeWordOf(place)} is moved, at idle`),
        ...common,
        reach: [place, "sensor"],
      });
    }
    return drafts;
  });
}
