import { OPEN_OHMS } from "../network";
import type { Assignment, FamilyFault } from "./family";

/** A module stage that is simply gone or set to something. */
export function stageFault(stage: "ref" | "gnd" | "pull" | "input", kind: string, title: string, assignments: readonly Assignment[]): FamilyFault {
  return { unit: `module:${stage}`, kind, title, severity: null, assign: () => assignments };
}

/** The module's low reference has lost its way to ground. Every family names that element `low-side`. */
export function moduleGroundOpen(): FamilyFault {
  return stageFault("gnd", "open", "Module low reference open inside", [{ element: "low-side", field: "ohms", value: OPEN_OHMS }]);
}

/** The module reports a fixed value whatever the pin does; severity is where between 0 and full scale it sticks. */
export function inputBlind(fullScaleVolts: number): FamilyFault {
  return {
    unit: "module:input",
    kind: "blind",
    title: "Module input blind",
    severity: { key: "severity", low: 0, high: 1 },
    assign: () => [],
    scanVolts: (severity) => fullScaleVolts * severity,
  };
}

/** The reference inside the module is missing, or low by a share of its voltage. */
export function referenceFaults(volts: number): readonly FamilyFault[] {
  return [
    stageFault("ref", "missing", "Module reference missing", [
      { element: "supply", field: "volts", value: 0 },
      { element: "supply", field: "ohms", value: 1e4 },
    ]),
    {
      unit: "module:ref",
      kind: "low",
      title: "Module reference low",
      severity: { key: "severity", low: 0.08, high: 0.9 },
      assign: (severity) => [{ element: "supply", field: "volts", value: volts * (1 - severity) }],
    },
  ];
}
