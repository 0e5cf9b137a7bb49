import type { CircuitPosterior } from "../posterior/posterior";

/** A kind of fault is meant where it has so much of its unit's probability. */
const MEANT = 0.5;

/** What is to be done about a kind of damage that "repair" or "replace" does not say; null where they do. */
function ruleFor(kind: string): string | null {
  if (kind.startsWith("bridged")) return "Dry the plug, clean its terminals and look at its seal: what bridges two of them is gone when it is pulled.";
  switch (kind) {
    case "true-value":
      return "The circuit is sound and its value is true: look for the cause in what it measures, before any part is replaced.";
    case "no-target":
      return "Nothing passes the sensor, or too far away: look at the wheel, its gap and what drives it.";
    case "plugged-port":
      return "Clear the port and its hose, and look whether it is tight.";
    default:
      return null;
  }
}

/** What the likeliest kind of damage of a declared unit asks for, in sentences; none where repairing or replacing it says all. */
export function causeRules({ inference: { grid }, faults }: CircuitPosterior, unit: string): string[] {
  const own = [...faults.keys()].filter((fault) => grid.faults[fault]?.unit === unit);
  const all = own.reduce((sum, fault) => sum + faults[fault], 0);
  const meant = own.find((fault) => all > 0 && faults[fault] >= MEANT * all);
  const rule = meant === undefined ? null : ruleFor(grid.faults[meant]?.kind ?? "");
  return rule === null ? [] : [rule];
}
