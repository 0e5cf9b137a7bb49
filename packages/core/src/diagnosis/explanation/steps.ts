import { circuitOfUnit, type Diagnosis, inSentence, unitKindOf } from "@fox-lamp/language";
import { familyById } from "../../circuit";
import { pushHome } from "./words";

/** What a verdict's next steps are made from, in words. */
export interface StepsOf {
  readonly status: Diagnosis["verdict"]["status"];
  /** Titles of what leads, of the second fault, and of what is still open. */
  readonly names: readonly string[];
  /** Whether what leads is a part that is replaced, rather than a wire or a contact that is repaired. */
  readonly part: boolean;
  readonly partner: string | null;
  /** The plug all that leads is in, where it was found off; null otherwise. */
  readonly off: string | null;
  readonly open: readonly string[];
  /** Titles of what leads for how it looks alone. */
  readonly seen: readonly string[];
  readonly doubtful: Diagnosis["doubtful"];
  /** Readings that fit worst whoever leads; none where they fit. */
  readonly misfits: readonly string[];
  /** Whether opening the module's connector and the like would separate a group. */
  readonly separate: string | null;
  /** What the shop does with units of this kind, in sentences. */
  readonly rules: readonly string[];
}

/** What to do when the tests here have said what they can. */
export function stepsOf({ status, names, part, partner, off, open, seen, doubtful, misfits, separate, rules }: StepsOf): string[] {
  switch (status) {
    case "proven":
      return [
        ...(off !== null ? [pushedHome(off)] : separate === null ? [] : [separate]),
        ...(names.length === 0 || off !== null
          ? []
          : [
              part
                ? `Replace ${names.map(inSentence).join(" or ")}; compare the new part with the old one before it is fitted.`
                : `Repair ${names.map(inSentence).join(" or ")}.`,
            ]),
        ...rules,
        ...(partner === null ? [] : [`Expect a second fault: ${inSentence(partner)}. Measure again once the first is repaired.`]),
        "Repeat the test that failed, clear the codes, drive, and read the data once more.",
      ];
    case "nothing-found":
      return [
        ...(off !== null ? [pushedHome(off)] : []),
        ...(seen.length === 0 || off !== null
          ? []
          : [
              `Looks bad, and all that was measured there is as it should be: ${seen.map(inSentence).join(", ")}. Clean it, and see whether the complaint stays away.`,
            ]),
        "Bring the complaint back under the conditions it was met in: hot, cold, wet, bumps, load.",
        "Record feed, ground and signal together meanwhile; what fails first is the lead.",
        ...(open.length === 0 ? [] : [`Not excluded by what was read: ${open.map(inSentence).join(", ")}.`]),
        "If it does not come back, close as not reproduced with what was cleared and this plan.",
      ];
    case "contradiction":
      return [
        ...doubtful.map(({ reading, why }) => `Repeat ${reading}. ${why}`),
        "Check that key, plugs and leads were as stated for every reading.",
        "If the same readings come back, two faults are there at once: repair what is sure and measure again.",
      ];
    case "unknown-fault":
      return [
        "The readings fit no fault this circuit's model knows: nothing is proven.",
        ...(misfits.length === 0
          ? []
          : [
              `Nearest comes ${names.map(inSentence).join(" or ")}, but ${misfits.join(" and ")} ${misfits.length === 1 ? "fits" : "fit"} it badly: read again first.`,
            ]),
        "Check the sheet against the car: feed, lines and limits stated wrongly make sound readings look faulty.",
        ...doubtful.map(({ reading, why }) => `Repeat ${reading}. ${why}`),
        "If they come back the same, look along the circuit for what no model has: a wrong part, an added device, a repair of another kind.",
      ];
    case "narrowing":
      return [];
  }
}

/** What is done about a plug that was found off. */
function pushedHome(connector: string): string {
  return `${pushHome(connector)}, look at its lock and its terminals, and see whether the complaint stays away.`;
}

/** How a shop decides where practitioners differ: what it says of the units that were condemned. @param families family of each circuit */
export function rulesFor(
  units: readonly string[],
  policy: Readonly<Record<string, unknown>> | undefined,
  families: ReadonlyMap<string, string>,
  pierced: boolean,
): string[] {
  const rules: string[] = [];
  const from = policy?.["changeLoomFrom"];
  if (units.some((unit) => unitKindOf(unit) === "wire") && typeof from === "number")
    rules.push(`Count the damaged wires: up to ${from - 1} are repaired one by one, from ${from} on the loom is changed.`);
  if (units.some((unit) => unit.endsWith("/module:gnd")))
    rules.push("Clean and tighten the module's own ground first: a module on a bad ground looks faulty itself.");
  const part = units.some((unit) => ["sensor", "coil", "heater"].includes(unitKindOf(unit) ?? ""));
  const cleaned = units.find((unit) => unitKindOf(unit) === "sensor" && familyById(families.get(circuitOfUnit(unit)) ?? "")?.traits.cleanable === true);
  if (cleaned !== undefined && policy?.["cleanFirst"] === true) {
    const name = inSentence(familyById(families.get(circuitOfUnit(cleaned)) ?? "")?.part ?? "sensor");
    rules.push(`Clean the ${name} and test it again before it is replaced.`);
  }
  if (part && policy?.["part"] === "original") rules.push("Order the original part; this shop fits no other.");
  if (pierced) rules.push("Seal every hole a probe has left in a wire.");
  return rules;
}
