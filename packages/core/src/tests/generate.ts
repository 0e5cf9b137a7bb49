import type { Instrument, Pin, Setup, Truth } from "@fox-lamp/language";
import type { CircuitModel } from "../circuit";
import { type Procedure, procedureId } from "./procedure";
import { CAUTIONS, PROVES, pinWord, placeWord } from "./wording";

/** What is known independently of the circuit while the tests are done, by quantity. */
export type Conditions = Pick<Truth, "temperature" | "pressure" | "position">;

/** A resistor that substitutes a signal gently, and one that loads a reference. */
const SUBSTITUTE_OHMS = 4700;
const LOAD_OHMS = 470;

type Draft = Omit<Procedure, "id" | "circuit" | "setup" | "black" | "cautions" | "needs"> & {
  readonly setup: Setup;
  readonly black?: string;
  readonly cautions?: readonly string[];
  readonly needs?: readonly Instrument[];
};

/** The states of the sensed quantity under which tests are offered. */
function worldCases(circuit: CircuitModel, conditions: Conditions): { truth: Truth | undefined; setup: Setup; how: string; minutes: number }[] {
  const { world } = circuit.built;
  const known = conditions[world.quantity];
  const cases: { truth: Truth | undefined; setup: Setup; how: string; minutes: number }[] = [];
  if (world.quantity !== "position") {
    const truth = known === undefined ? undefined : { [world.quantity]: known };
    cases.push({ truth, setup: truth ? { truth } : {}, how: "", minutes: 0 });
  }
  for (const settable of world.settable) {
    const truth = { [world.quantity]: settable.value };
    const stimulus = settable.stimulus ? { stimulus: settable.stimulus } : {};
    cases.push({ truth, setup: { ...stimulus, truth }, how: settable.how, minutes: settable.minutes });
  }
  return cases;
}

/**
 * Every test a circuit offers: data, feed and ground, unplug and watch, substitution, resistance, movement, drops along the
 * path, looks (techniques T1 to T9, T14 of the trade). Generated from pins and places, so a new family has them at once.
 *
 * @param conditions what is known about the sensed quantity; tests carry it as their truth
 */
export function generateTests(circuit: CircuitModel, conditions: Conditions = {}): Procedure[] {
  const drafts: Draft[] = [];
  const pins = circuit.family.pins;
  const signal = pins.find((pin) => pin.startsWith("sig")) ?? (pins[0] as Pin);
  const ground = pins.find((pin) => pin.startsWith("gnd"));
  const reference = pins.find((pin) => pin === "ref");
  const cases = worldCases(circuit, conditions);
  const [rest] = cases;
  const plain: Setup = rest?.setup.stimulus ? {} : (rest?.setup ?? {});
  const part = circuit.family.part.toLowerCase();
  const scan = (setup: Setup, title: string, extra: Partial<Draft> = {}): Draft => ({
    technique: "T1",
    title,
    meter: "scan",
    red: `${signal}@module`,
    setup,
    minutes: 0.5,
    reach: [],
    opens: [],
    needs: ["scan"],
    proves: PROVES.scan,
    ...extra,
  });
  const volts = (
    technique: Draft["technique"],
    title: string,
    red: string,
    black: string,
    setup: Setup,
    reach: readonly string[],
    extra: Partial<Draft> = {},
  ): Draft => ({
    technique,
    title,
    meter: "volts-dc",
    red,
    black,
    setup,
    minutes: 0.7,
    reach,
    opens: setup.open ?? [],
    needs: ["meter"],
    proves: PROVES.plugged,
    ...extra,
  });

  for (const { setup, how, minutes } of cases) {
    const suffix = how === "" ? "" : `, ${how}`;
    drafts.push(scan(setup, `Module's own value${suffix}`, { minutes: 0.5 + minutes }));
    for (const place of ["sensor", "module", ...circuit.inline]) {
      drafts.push(volts("T2", `Signal ${placeWord(place)}, plugged${suffix}`, `${signal}@${place}`, "bat-", setup, [place], { minutes: 0.7 + minutes }));
    }
  }
  for (const place of ["sensor", ...circuit.inline, "module"]) {
    drafts.push(
      scan(
        { ...plain, stimulus: { kind: "wiggle", at: place } },
        `Module's value while the ${place === "sensor" || place === "module" ? `${place} connector` : place} is moved`,
        {
          technique: "T8",
          reach: [place],
          minutes: 1.2,
          proves: PROVES.wiggle,
        },
      ),
    );
    if (ground) drafts.push(volts("T4", `Ground drop ${placeWord(place)}, working`, `${ground}@${place}`, "bat-", plain, [place], { proves: PROVES.ground }));
    if (reference) {
      drafts.push(volts("T2", `Reference ${placeWord(place)} against battery negative`, `${reference}@${place}`, "bat-", plain, [place]));
      if (ground)
        drafts.push(volts("T2", `Reference to ground ${placeWord(place)}, both at once`, `${reference}@${place}`, `${ground}@${place}`, plain, [place]));
    }
  }
  for (const pin of pins) {
    const places = ["module", ...circuit.inline, "sensor"];
    places.slice(1).forEach((place, index) => {
      const from = places[index] ?? "module";
      const [red, black] = pin === ground ? [`${pin}@${place}`, `${pin}@${from}`] : [`${pin}@${from}`, `${pin}@${place}`];
      drafts.push(
        volts("T14", `Drop along the ${pinWord(pin)} wire, ${from} to ${place}`, red, black, plain, [from, place], { proves: PROVES.drop, minutes: 1 }),
      );
    });
  }
  drafts.push(volts("T2", "Battery, key on", "bat+", "bat-", {}, [], { minutes: 0.4, proves: PROVES.battery }));
  drafts.push(volts("T4", "Chassis ground against battery negative", "chassis", "bat-", {}, [], { proves: PROVES.ground, minutes: 0.6 }));

  const unplugged: Setup = { open: ["sensor"] };
  drafts.push(volts("T5", "Signal at the unplugged connector", `${signal}@sensor`, "bat-", unplugged, ["sensor"], { proves: PROVES.unplugged }));
  drafts.push(scan(unplugged, "Module's value with the sensor unplugged", { technique: "T5", opens: ["sensor"], reach: ["sensor"], proves: PROVES.unplugged }));
  if (ground) {
    drafts.push(volts("T2", "Battery positive to the open ground cavity", "bat+", `${ground}@sensor`, unplugged, ["sensor"], { proves: PROVES.noLoad }));
    drafts.push({
      technique: "T2",
      title: "Test lamp from battery positive to the ground cavity",
      meter: "lamp",
      red: "bat+",
      black: `${ground}@sensor`,
      setup: unplugged,
      minutes: 0.8,
      reach: ["sensor"],
      opens: ["sensor"],
      needs: ["lamp"],
      proves: PROVES.loaded,
      cautions: [CAUTIONS.lamp],
    });
    drafts.push(
      volts(
        "T2",
        "Ground drop while the test lamp loads it",
        `${ground}@sensor`,
        "bat-",
        { ...unplugged, add: [{ kind: "lamp", from: "bat+", to: `${ground}@sensor` }] },
        ["sensor"],
        {
          needs: ["meter", "lamp"],
          minutes: 1.2,
          proves: PROVES.loaded,
          cautions: [CAUTIONS.lamp],
        },
      ),
    );
    for (const [kind, ohms, minutes] of [
      ["jumper", undefined, 1],
      ["resistor", SUBSTITUTE_OHMS, 1],
    ] as const) {
      const add = [{ kind, from: `${signal}@sensor`, to: `${ground}@sensor`, ...(ohms === undefined ? {} : { ohms }) }];
      const what = kind === "jumper" ? "a fused jumper" : `${SUBSTITUTE_OHMS} ohm`;
      drafts.push(
        scan({ ...unplugged, add }, `Module's value with ${what} from signal to ground`, {
          technique: "T6",
          opens: ["sensor"],
          reach: ["sensor"],
          needs: ["scan", kind],
          minutes,
          proves: PROVES.bypass,
          cautions: [CAUTIONS.jumper],
        }),
      );
    }
  }
  if (reference) {
    drafts.push(volts("T2", "Reference at the unplugged connector", `${reference}@sensor`, "bat-", unplugged, ["sensor"], { proves: PROVES.noLoad }));
    if (ground) {
      drafts.push(
        volts("T2", "Reference to ground at the unplugged connector", `${reference}@sensor`, `${ground}@sensor`, unplugged, ["sensor"], {
          proves: PROVES.noLoad,
        }),
      );
      drafts.push(
        volts(
          "T2",
          `Reference to ground with ${LOAD_OHMS} ohm across it`,
          `${reference}@sensor`,
          `${ground}@sensor`,
          { ...unplugged, add: [{ kind: "resistor", from: `${reference}@sensor`, to: `${ground}@sensor`, ohms: LOAD_OHMS }] },
          ["sensor"],
          { needs: ["meter", "resistor"], minutes: 1.2, proves: PROVES.loaded },
        ),
      );
    }
    drafts.push(
      scan(
        { ...unplugged, add: [{ kind: "resistor", from: `${reference}@sensor`, to: `${signal}@sensor`, ohms: SUBSTITUTE_OHMS }] },
        `Module's value with ${SUBSTITUTE_OHMS} ohm from reference to signal`,
        {
          technique: "T6",
          opens: ["sensor"],
          reach: ["sensor"],
          needs: ["scan", "resistor"],
          minutes: 1,
          proves: PROVES.bypass,
          cautions: [CAUTIONS.jumper],
        },
      ),
    );
  }

  const off: Setup = { key: "off", open: ["sensor"] };
  const ohms = (title: string, red: string, black: string, setup: Setup, reach: readonly string[], proves: string): Draft => ({
    technique: "T7",
    title,
    meter: "ohms",
    red,
    black,
    setup,
    minutes: 0.9,
    reach,
    opens: setup.open ?? [],
    needs: ["meter"],
    proves,
    cautions: [CAUTIONS.ohms],
  });
  for (const [red, black] of circuit.built.partOhms) {
    for (const { truth } of circuit.built.world.quantity === "position" && red === signal ? cases : [{ truth: rest?.truth }]) {
      const position = truth?.position === undefined ? "" : truth.position > 50 ? ", held open" : ", released";
      drafts.push(
        ohms(
          `Resistance of the ${part}, ${pinWord(red)} to ${pinWord(black)}${position}`,
          `${red}@part`,
          `${black}@part`,
          truth ? { ...off, truth } : off,
          ["sensor"],
          PROVES.partOhms,
        ),
      );
    }
  }
  const both: Setup = { key: "off", open: ["sensor", "module"] };
  const ends = ["sensor", "module"];
  for (const pin of pins) {
    drafts.push(ohms(`${pinWord(pin, true)} wire end to end`, `${pin}@module`, `${pin}@sensor`, both, ends, PROVES.wireOhms));
    drafts.push(ohms(`${pinWord(pin, true)} wire to chassis`, `${pin}@sensor`, "chassis", both, ends, PROVES.insulation));
    for (const other of pins.slice(pins.indexOf(pin) + 1)) {
      drafts.push(ohms(`${pinWord(pin, true)} wire to ${pinWord(other)} wire`, `${pin}@sensor`, `${other}@sensor`, both, ends, PROVES.insulation));
    }
    drafts.push(
      volts("T7", `Voltage left on the ${pinWord(pin)} wire, both ends open`, `${pin}@sensor`, "bat-", { open: ["sensor", "module"] }, ends, {
        proves: PROVES.insulation,
      }),
    );
  }
  if (circuit.built.faults.some((fault) => fault.during === "sweep")) {
    drafts.push(
      scan({ stimulus: { kind: "sweep" }, truth: { [circuit.built.world.quantity]: circuit.built.world.low } }, "Lowest module value during a slow sweep", {
        technique: "T9",
        minutes: 1,
        proves: PROVES.sweep,
      }),
    );
  }
  for (const [place, opens, minutes] of [
    ["sensor", ["sensor"], 0.8],
    ["loom", [], 1.5],
    ["module", ["module"], 0.8],
  ] as const) {
    drafts.push({
      technique: "look",
      title: place === "loom" ? "Look along the loom" : `Look into the ${place} connector`,
      meter: "look",
      red: place,
      setup: opens.length === 0 ? {} : { key: "off", open: [...opens] },
      minutes,
      reach: place === "loom" ? [] : [place],
      opens,
      needs: [],
      proves: PROVES.look,
    });
  }
  return drafts.map((draft): Procedure => {
    const full = { ...draft, black: draft.black ?? null, circuit: circuit.id, needs: draft.needs ?? ["meter"], cautions: draft.cautions ?? [] };
    return { ...full, id: procedureId(full) };
  });
}
