import { keysOf } from "./keys";
/** Where something is looked at: a connector (sensor, module, C1 ...), the loom, what moves past the sensor, the part itself. */
export const LOOK_PLACES = ["connector", "loom", "target", "part"] as const;
export type LookPlace = (typeof LOOK_PLACES)[number];

/** What can be seen where; the first, "ok", everywhere. */
export const FINDING_PLACES = {
  ok: LOOK_PLACES,
  unplugged: ["connector"],
  corroded: ["connector", "loom"],
  "pin-out": ["connector"],
  chafed: ["connector", "loom"],
  wet: ["connector", "loom"],
  burnt: ["connector", "loom", "part"],
  "not-turning": ["target"],
  gap: ["target"],
  metal: ["target", "part"],
  "plugged-port": ["part", "connector"],
  contaminated: ["part", "connector"],
  "wrong-part": ["part", "connector"],
} as const satisfies Record<string, readonly LookPlace[]>;

/** A finding of a look that weighs something; any other word is kept and weighs nothing. */
export type Finding = keyof typeof FINDING_PLACES;

export const FINDINGS = keysOf(FINDING_PLACES);

/** What was seen, as people say it. */
export const FINDING_WORDS: Readonly<Record<Finding, string>> = {
  ok: "Looks fine",
  corroded: "Corroded",
  "pin-out": "Pin pushed out",
  unplugged: "Not plugged in",
  burnt: "Burnt",
  chafed: "Chafed",
  wet: "Wet",
  "not-turning": "Does not turn",
  gap: "Gap too wide",
  "plugged-port": "Port plugged",
  contaminated: "Contaminated",
  metal: "Metal on the tip",
  "wrong-part": "Wrong part",
};

/** The kind of place a look's `red` names. */
export function lookPlaceOf(place: string): LookPlace {
  const name = place.includes(":") ? place.slice(place.indexOf(":") + 1) : place;
  return name === "loom" || name === "target" || name === "part" ? name : "connector";
}

/** What a look at a place can show, "ok" first. @param place as in a reading's `red`: sensor, module, C1, loom, target, part */
export function findingsAt(place: string): readonly Finding[] {
  const kind = lookPlaceOf(place);
  return FINDINGS.filter((finding) => (FINDING_PLACES[finding] as readonly LookPlace[]).includes(kind));
}
