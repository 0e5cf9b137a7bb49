import { GROUND_ROLES, isGroundRole, type Pin, pinWord, placeWord, type Setup, SUPPLY_ROLES } from "@fox-lamp/language";
import { CAUTIONS, PROVES } from "../instruments";
import { formatQuantity } from "../units";
import { type Bench, type Draft, ohms, pluggedPlaces, scan, titled, volts } from "./drafts";

/** A resistor that substitutes a signal gently, and one that loads a reference. */
const SUBSTITUTE_OHMS = 4700;
const LOAD_OHMS = 470;

/** Where the black lead goes for a signal: battery negative, or the circuit's own return where the drop of a ground is more than the signal. */
function signalBlack({ circuit, ofRole, path }: Bench, place: string): string {
  const own = ofRole("return", "ground")[0]?.pin;
  return circuit.built.rangeVolts !== undefined && own !== undefined && path(own).places.has(place) ? `${own}@${place}` : "bat-";
}

/** Data first, and the signal where it can be reached, in every state that can be set (T1, T2, T9). */
export function signalLevels(bench: Bench): Draft[] {
  const { circuit, states, moves } = bench;
  const readable = circuit.built.reads.filter(({ by }) => by === "volts");
  return states.flatMap(({ setup, how, minutes }) => [
    ...readable.map(({ pin }) => scan(pin, setup, titled(`What the module reads, ${pinWord(pin)}`, null, how), { minutes: 0.5 + minutes })),
    ...bench.ofRole("signal").flatMap(({ pin }) => {
      const word = pinWord(pin, true);
      const proves = moves.still ? PROVES.average : PROVES.plugged;
      return pluggedPlaces(bench.path(pin)).map((place) =>
        volts("T2", titled(word, place, `plugged${how === "" ? "" : `, ${how}`}`), `${pin}@${place}`, signalBlack(bench, place), setup, [place], {
          minutes: 0.7 + minutes,
          proves,
        }),
      );
    }),
  ]);
}

/** Feed and reference, ground drop, and drops along the wires, plugged and working (T2, T4, T14). */
export function supplies(bench: Bench): Draft[] {
  const { plain } = bench;
  const drafts: Draft[] = [];
  const ground = bench.ofRole(...GROUND_ROLES)[0]?.pin;
  for (const { pin } of bench.ofRole(...GROUND_ROLES)) {
    for (const place of pluggedPlaces(bench.path(pin))) {
      drafts.push(volts("T4", `${pinWord(pin, true)} drop ${placeWord(place)}, working`, `${pin}@${place}`, "bat-", plain, [place], { proves: PROVES.ground }));
    }
  }
  for (const { pin } of bench.ofRole(...SUPPLY_ROLES)) {
    for (const place of pluggedPlaces(bench.path(pin))) {
      drafts.push(volts("T2", `${pinWord(pin, true)} ${placeWord(place)} against battery negative`, `${pin}@${place}`, "bat-", plain, [place]));
      if (ground && bench.path(ground).places.has(place)) {
        drafts.push(
          volts("T2", `${pinWord(pin, true)} to ${pinWord(ground)} ${placeWord(place)}, both at once`, `${pin}@${place}`, `${ground}@${place}`, plain, [place]),
        );
      }
    }
  }
  for (const { pin, role } of bench.circuit.pins) {
    if (role === "shield") continue;
    const places = pluggedPlaces(bench.path(pin));
    places.slice(1).forEach((place, index) => {
      const from = places[index] as string;
      const inwards = role === "ground" || role === "return";
      const [red, black] = inwards ? [`${pin}@${place}`, `${pin}@${from}`] : [`${pin}@${from}`, `${pin}@${place}`];
      const title = `Drop along the ${pinWord(pin)} wire, ${from} to ${place}`;
      drafts.push(volts("T14", title, red, black, plain, [from, place], { proves: PROVES.drop, minutes: 1 }));
    });
  }
  return drafts;
}

/** Battery and grounds of the car (T2, T4). */
export function carTests(engineMatters: boolean): Draft[] {
  const drafts = [
    volts("T2", "Battery, key on", "bat+", "bat-", {}, [], { minutes: 0.4, proves: PROVES.battery, cautions: [CAUTIONS.battery] }),
    volts("T4", "Chassis ground against battery negative", "chassis", "bat-", {}, [], { proves: PROVES.ground, minutes: 0.6 }),
    volts("T2", "Battery while cranking", "bat+", "bat-", { key: "crank" }, [], { minutes: 0.8, proves: PROVES.battery }),
  ];
  if (engineMatters)
    drafts.push(volts("T4", "Engine ground against battery negative, cranking", "engine", "bat-", { key: "crank" }, [], { proves: PROVES.ground, minutes: 1 }));
  return drafts;
}

/** What the tests at the unplugged sensor are done in. */
const OPEN: Setup = { open: ["sensor"] };

/** With the sensor unplugged: what is behind it, without and with load (T2, T5). */
export function unplugged(bench: Bench): Draft[] {
  if (!bench.connectors.includes("sensor")) return [];
  return [...openCavities(bench), ...unpluggedData(bench), ...groundsUnderLoad(bench), ...suppliesUnderLoad(bench)];
}

/** Every line but the grounds at its open cavity. */
function openCavities({ circuit }: Bench): Draft[] {
  return circuit.pins.flatMap(({ pin, role }): Draft[] => {
    if (isGroundRole(role) || role === "shield") return [];
    const proves = role === "signal" || role === "control" ? PROVES.unplugged : PROVES.noLoad;
    const title = `${pinWord(pin, true)} at the unplugged connector`;
    return [volts(role === "signal" ? "T5" : "T2", title, `${pin}@sensor`, "bat-", OPEN, ["sensor"], { proves })];
  });
}

/** What the module makes of its open signals. */
function unpluggedData({ circuit }: Bench): Draft[] {
  return circuit.built.reads.flatMap(({ pin, by }): Draft[] => {
    if (by !== "volts") return [];
    const rest = { technique: "T5", opens: ["sensor"], reach: ["sensor"], proves: PROVES.unplugged } as const;
    return [scan(pin, OPEN, `What the module reads, ${pinWord(pin)}, with the sensor unplugged`, rest)];
  });
}

/** Grounds at the open connector: by the meter, by a lamp, and their drop while the lamp loads them. */
function groundsUnderLoad(bench: Bench): Draft[] {
  return bench.ofRole(...GROUND_ROLES).flatMap(({ pin }): Draft[] => {
    const word = pinWord(pin);
    const lit: Setup = { ...OPEN, add: [{ kind: "lamp", from: "bat+", to: `${pin}@sensor` }] };
    return [
      volts("T2", `Battery positive to the open ${word} cavity`, "bat+", `${pin}@sensor`, OPEN, ["sensor"], { proves: PROVES.noLoad }),
      {
        technique: "T2",
        title: `Test lamp from battery positive to the ${word} cavity`,
        meter: "lamp",
        red: "bat+",
        black: `${pin}@sensor`,
        setup: OPEN,
        minutes: 0.8,
        reach: ["sensor"],
        opens: ["sensor"],
        needs: ["lamp"],
        proves: PROVES.loaded,
        cautions: [CAUTIONS.lamp],
      },
      volts("T4", `${pinWord(pin, true)} drop while the test lamp loads it`, `${pin}@sensor`, "bat-", lit, ["sensor"], {
        needs: ["meter", "lamp"],
        minutes: 1.2,
        proves: PROVES.loaded,
        cautions: [CAUTIONS.lamp],
      }),
    ];
  });
}

/** References and feeds at the open connector: against the circuit's own ground, and loaded (a module's by a resistor, the car's by a lamp). */
function suppliesUnderLoad(bench: Bench): Draft[] {
  const ground = bench.ofRole("ground", "return")[0]?.pin;
  const back = ground ? `${ground}@sensor` : "bat-";
  return bench.ofRole(...SUPPLY_ROLES).flatMap(({ pin, role, origin }): Draft[] => {
    const [word, at] = [pinWord(pin, true), `${pin}@sensor`];
    const unloaded = ground
      ? [volts("T2", `${word} to ${pinWord(ground)} at the unplugged connector`, at, back, OPEN, ["sensor"], { proves: PROVES.noLoad })]
      : [];
    if (role === "reference" || origin === "module") {
      const loaded: Setup = { ...OPEN, add: [{ kind: "resistor", from: at, to: back, ohms: LOAD_OHMS }] };
      const rest = { needs: ["meter", "resistor"], minutes: 1.2, proves: PROVES.loaded } as const;
      return [...unloaded, volts("T2", `${word} with ${formatQuantity(LOAD_OHMS, "ohm", 2)} across it`, at, back, loaded, ["sensor"], rest)];
    }
    const lit: Setup = { ...OPEN, add: [{ kind: "lamp", from: at, to: "bat-" }] };
    const rest = { needs: ["meter", "lamp"], minutes: 1.1, proves: PROVES.loaded } as const;
    return [...unloaded, volts("T2", `${word} while a test lamp to battery negative loads it`, at, "bat-", lit, ["sensor"], rest)];
  });
}

/** Substituting the signal at the unplugged connector and watching the module's value (T6). */
export function bypasses(bench: Bench): Draft[] {
  const { circuit, policy } = bench;
  const ground = bench.ofRole("ground", "return")[0]?.pin;
  const reference = bench.ofRole("reference")[0]?.pin;
  const open: Setup = { open: ["sensor"] };
  const common = { technique: "T6", opens: ["sensor"], reach: ["sensor"], minutes: 1, proves: PROVES.bypass } as const;
  return circuit.built.reads.flatMap(({ pin, by }): Draft[] => {
    if (bench.path(pin).role !== "signal") return [];
    if (by === "counts") return touched(bench, pin);
    if (by !== "volts") return [];
    const drafts: Draft[] = [];
    const substitute = (to: string, kind: "jumper" | "resistor"): void => {
      const what = kind === "jumper" ? "a fused jumper" : formatQuantity(SUBSTITUTE_OHMS, "ohm", 2);
      const add = [{ kind, from: `${pin}@sensor`, to: `${to}@sensor`, ...(kind === "jumper" ? {} : { ohms: SUBSTITUTE_OHMS }) }];
      drafts.push(
        scan(pin, { ...open, add }, `What the module reads with ${what} from ${pinWord(pin)} to ${pinWord(to)}`, {
          ...common,
          needs: ["scan", kind],
          cautions: [kind === "jumper" ? CAUTIONS.jumper : CAUTIONS.resistor],
        }),
      );
    };
    if (ground && policy.bypass !== "resistor") substitute(ground, "jumper");
    if (ground && policy.bypass !== "wire") substitute(ground, "resistor");
    if (reference && policy.bypass !== "resistor") substitute(reference, "jumper");
    if (reference && policy.bypass !== "wire") substitute(reference, "resistor");
    return drafts;
  });
}

/**
 * A switched signal made by hand: a test lamp touched on and off between the open signal cavity and what its sensor would tie it to,
 * while the module counts (T6). Nothing for a pair that makes its own voltage: a floating input seldom answers.
 */
function touched({ circuit, ofRole }: Bench, pin: Pin): Draft[] {
  const output = (circuit.parameters as { output?: "pull-down" | "source" }).output;
  const feed = ofRole("feed")[0]?.pin;
  if (output === undefined || feed === undefined) return [];
  const setup: Setup = {
    open: ["sensor"],
    add: [{ kind: "lamp", from: `${pin}@sensor`, to: output === "source" ? `${feed}@sensor` : "bat-" }],
    stimulus: { kind: "touch" },
  };
  const to = output === "source" ? pinWord(feed) : "battery negative";
  return [
    scan(pin, setup, `Speed in the module's data while a test lamp to ${to} is touched on and off the ${pinWord(pin)}`, {
      technique: "T6",
      unit: "rpm",
      opens: ["sensor"],
      reach: ["sensor"],
      minutes: 1.2,
      needs: ["scan", "lamp"],
      proves: PROVES.touched,
      cautions: [CAUTIONS.lamp],
    }),
  ];
}

/** Resistance of the part and of the wires (T7). */
export function resistances(bench: Bench): Draft[] {
  const { circuit, part, states, connectors } = bench;
  if (!bench.policy.resistance || !connectors.includes("sensor")) return [];
  const off: Setup = { key: "off", open: ["sensor"] };
  const drafts: Draft[] = [];
  const { quantity } = circuit.built.world;
  for (const [red, black] of circuit.built.partOhms) {
    const moved = quantity === "position" || quantity === "level" ? bench.path(red).role === "signal" : false;
    for (const { setup, how } of moved ? states : states.slice(0, 1)) {
      const truth = quantity === "level" && !moved ? {} : setup.truth === undefined ? {} : { truth: setup.truth };
      drafts.push(
        ohms(
          titled(`Resistance of the ${part}, ${pinWord(red)} to ${pinWord(black)}`, null, moved ? how : ""),
          `${red}@part`,
          `${black}@part`,
          { ...off, ...truth },
          ["sensor"],
          PROVES.partOhms,
        ),
      );
    }
  }
  if (circuit.built.faults.some(({ kind, during }) => kind === "hot" && during === "heat")) {
    const [red, black] = circuit.built.partOhms[0] ?? ["sig", "gnd"];
    drafts.push({
      ...ohms(`Resistance of the ${part} after warming it`, `${red}@part`, `${black}@part`, { ...off, stimulus: { kind: "heat" } }, ["sensor"], PROVES.hot),
      technique: "T15",
      minutes: 4,
      cautions: [CAUTIONS.ohms, CAUTIONS.heat],
    });
  }
  const pins = circuit.pins.filter(({ pin, role }) => role !== "shield" && bench.path(pin).places.has("part"));
  for (const { pin, origin } of pins) {
    const both: Setup = { key: "off", open: ["sensor", "module"] };
    const ends = ["sensor", "module"];
    const word = pinWord(pin, true);
    const start = pluggedPlaces(bench.path(pin))[0];
    if (origin === "module" && start !== undefined && start !== "sensor")
      drafts.push(ohms(`${word} wire end to end`, `${pin}@${start}`, `${pin}@sensor`, both, ends, PROVES.wireOhms));
    if (origin === "chassis" || origin === "engine")
      drafts.push(ohms(`${word} wire to battery negative`, `${pin}@sensor`, "bat-", { ...off }, ["sensor"], PROVES.wireOhms));
    else drafts.push(ohms(`${word} wire to chassis`, `${pin}@sensor`, "chassis", both, ends, PROVES.insulation));
    for (const other of pins.slice(pins.findIndex((one) => one.pin === pin) + 1)) {
      drafts.push(ohms(`${word} wire to ${pinWord(other.pin)} wire`, `${pin}@sensor`, `${other.pin}@sensor`, both, ends, PROVES.insulation));
    }
    if (origin === "module") {
      drafts.push(
        volts("T7", `Voltage left on the ${pinWord(pin)} wire, both ends open`, `${pin}@sensor`, "bat-", { open: ["sensor", "module"] }, ends, {
          proves: PROVES.insulation,
        }),
      );
    }
  }
  return drafts;
}

/** Moving connectors and sweeping the sensor while the module's value is watched (T8, T9, T15). */
export function movements(bench: Bench): Draft[] {
  const { circuit, connectors } = bench;
  const plain: Setup = circuit.built.world.quantity === "level" && !bench.moves.running ? { truth: { level: "low" } } : bench.plain;
  const drafts = connectors.flatMap((place) =>
    circuit.built.reads
      .filter(({ by }) => by === "volts")
      .map(({ pin }) =>
        scan(
          pin,
          { ...plain, stimulus: { kind: "wiggle", at: place } },
          `What the module reads${circuit.built.reads.length > 1 ? `, ${pinWord(pin)},` : ""} while the ${place === "sensor" || place === "module" ? `${place} connector` : place} is moved`,
          {
            technique: "T8",
            reach: [place],
            minutes: 1.2,
            proves: PROVES.wiggle,
          },
        ),
      ),
  );
  if (circuit.built.faults.some((fault) => fault.during === "sweep")) {
    const { low, quantity } = circuit.built.world;
    for (const { pin } of circuit.built.reads) {
      drafts.push(
        scan(pin, { stimulus: { kind: "sweep" }, truth: { [quantity]: low } }, `Lowest module value of the ${pinWord(pin)} during a slow sweep`, {
          technique: "T9",
          minutes: 1,
          proves: PROVES.sweep,
        }),
      );
    }
  }
  return drafts;
}
