import type { FamilyKind } from "../circuit";

/** What a generic code can speak of: the circuits it fits, by id or by words of their title. */
export interface Subject {
  readonly title: string;
  /** Ids and title words that name such a circuit. */
  readonly names: readonly string[];
  /** What such a circuit is for. */
  readonly kinds: readonly FamilyKind[];
}

/** The subjects of the table of generic codes. */
export const SUBJECTS = {
  coolant: { title: "Coolant temperature", names: ["ect", "clt", "coolant"], kinds: ["temperature"] },
  "intake-air": { title: "Intake air temperature", names: ["iat", "intake air", "air temperature"], kinds: ["temperature"] },
  "oil-temperature": { title: "Oil temperature", names: ["eot", "oil temperature"], kinds: ["temperature"] },
  manifold: { title: "Manifold or barometric pressure", names: ["map", "baro", "manifold", "barometric"], kinds: ["pressure"] },
  rail: { title: "Fuel rail pressure", names: ["frp", "rail"], kinds: ["pressure"] },
  "oil-pressure": { title: "Oil pressure", names: ["eop", "oil pressure"], kinds: ["pressure", "contact"] },
  refrigerant: { title: "Refrigerant pressure", names: ["acp", "refrigerant", "air conditioning"], kinds: ["pressure", "contact"] },
  tank: { title: "Fuel tank pressure", names: ["ftp", "tank"], kinds: ["pressure"] },
  throttle: { title: "Throttle position", names: ["tps", "throttle", "etc"], kinds: ["track"] },
  pedal: { title: "Accelerator pedal position", names: ["app", "pedal", "accelerator"], kinds: ["track"] },
  egr: { title: "Recirculation valve position", names: ["egr", "recirculation"], kinds: ["track"] },
  "air-flow": { title: "Air flow", names: ["maf", "air flow", "airflow"], kinds: ["air-flow"] },
  crank: { title: "Crankshaft position", names: ["crank", "ckp", "crankshaft"], kinds: ["wheel"] },
  cam: { title: "Camshaft position", names: ["cam", "cmp", "camshaft"], kinds: ["wheel"] },
  speed: { title: "Vehicle speed", names: ["vss", "speed"], kinds: ["wheel"] },
  knock: { title: "Knock", names: ["knock", "ks"], kinds: ["knock"] },
  oxygen: { title: "Oxygen sensor", names: ["o2", "oxygen", "lambda"], kinds: ["mixture"] },
  purge: { title: "Tank purge valve", names: ["purge", "evap"], kinds: ["valve"] },
  phaser: { title: "Cam phaser valve", names: ["vvt", "phaser", "ocv"], kinds: ["valve"] },
  runner: { title: "Intake runner or swirl flap valve", names: ["imrc", "swirl", "runner", "flap"], kinds: ["valve"] },
  idle: { title: "Idle air valve", names: ["iac", "idle"], kinds: ["valve"] },
  reference: { title: "Sensor reference voltage", names: ["ref", "bus", "reference"], kinds: ["reference"] },
  supply: { title: "System voltage", names: ["bat", "battery", "supply"], kinds: ["battery"] },
  mixture: { title: "Mixture", names: [], kinds: [] },
  misfire: { title: "Misfire", names: [], kinds: [] },
  timing: { title: "Cam timing", names: [], kinds: [] },
  catalyst: { title: "Catalyst", names: [], kinds: [] },
} as const satisfies Record<string, Subject>;

export type SubjectKey = keyof typeof SUBJECTS;
