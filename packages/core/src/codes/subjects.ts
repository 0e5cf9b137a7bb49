/** What a generic code can speak of: the circuits it fits, by id or by words of their title. */
export interface Subject {
  readonly title: string;
  /** Ids and title words that name such a circuit. */
  readonly names: readonly string[];
  readonly families: readonly string[];
}

const PRESSURE = ["pressure-3w", "pressure-freq"] as const;
const TURNING = ["hall-3w", "vr-2w"] as const;
const KNOCK = ["knock-1w", "knock-2w"] as const;
const FLOW = ["maf-voltage", "maf-freq"] as const;
const TRACKS = ["potentiometer-3w", "dual-track"] as const;

/** The subjects of the table of generic codes. */
export const SUBJECTS = {
  coolant: { title: "Coolant temperature", names: ["ect", "clt", "coolant"], families: ["thermistor-2w"] },
  "intake-air": { title: "Intake air temperature", names: ["iat", "intake air", "air temperature"], families: ["thermistor-2w"] },
  "oil-temperature": { title: "Oil temperature", names: ["eot", "oil temperature"], families: ["thermistor-2w"] },
  manifold: { title: "Manifold or barometric pressure", names: ["map", "baro", "manifold", "barometric"], families: PRESSURE },
  rail: { title: "Fuel rail pressure", names: ["frp", "rail"], families: PRESSURE },
  "oil-pressure": { title: "Oil pressure", names: ["eop", "oil pressure"], families: [...PRESSURE, "switch"] },
  refrigerant: { title: "Refrigerant pressure", names: ["acp", "refrigerant", "air conditioning"], families: [...PRESSURE, "switch"] },
  tank: { title: "Fuel tank pressure", names: ["ftp", "tank"], families: PRESSURE },
  throttle: { title: "Throttle position", names: ["tps", "throttle", "etc"], families: TRACKS },
  pedal: { title: "Accelerator pedal position", names: ["app", "pedal", "accelerator"], families: TRACKS },
  egr: { title: "Recirculation valve position", names: ["egr", "recirculation"], families: TRACKS },
  "air-flow": { title: "Air flow", names: ["maf", "air flow", "airflow"], families: FLOW },
  crank: { title: "Crankshaft position", names: ["crank", "ckp", "crankshaft"], families: TURNING },
  cam: { title: "Camshaft position", names: ["cam", "cmp", "camshaft"], families: TURNING },
  speed: { title: "Vehicle speed", names: ["vss", "speed"], families: TURNING },
  knock: { title: "Knock", names: ["knock", "ks"], families: KNOCK },
  oxygen: { title: "Oxygen sensor", names: ["o2", "oxygen", "lambda"], families: ["oxygen-narrow"] },
  purge: { title: "Tank purge valve", names: ["purge", "evap"], families: ["solenoid-2w"] },
  phaser: { title: "Cam phaser valve", names: ["vvt", "phaser", "ocv"], families: ["solenoid-2w"] },
  idle: { title: "Idle air valve", names: ["iac", "idle"], families: ["solenoid-2w"] },
  reference: { title: "Sensor reference voltage", names: ["ref", "bus", "reference"], families: ["reference-bus"] },
  supply: { title: "System voltage", names: ["bat", "battery", "supply"], families: ["battery-crank"] },
  mixture: { title: "Mixture", names: [], families: [] },
  misfire: { title: "Misfire", names: [], families: [] },
  timing: { title: "Cam timing", names: [], families: [] },
  catalyst: { title: "Catalyst", names: [], families: [] },
} as const satisfies Record<string, Subject>;

export type SubjectKey = keyof typeof SUBJECTS;
