/** What can be replaced or repaired, taken apart. */
export type RepairUnit =
  | { readonly kind: "wire"; readonly circuit: string; readonly pin: string }
  | { readonly kind: "contact"; readonly circuit: string; readonly pin: string; readonly place: string }
  | { readonly kind: "connector"; readonly circuit: string; readonly place: string }
  | { readonly kind: "module"; readonly circuit: string; readonly stage: string }
  | { readonly kind: "contacts"; readonly circuit: string }
  | { readonly kind: "ground"; readonly circuit: string; readonly ground: string }
  | { readonly kind: "sensor" | "heater" | "coil" | "battery" | "outside"; readonly circuit: string };

export type UnitKind = RepairUnit["kind"];

const PLAIN = ["sensor", "heater", "coil", "battery", "outside"] as const;

/** Takes a unit's name within its circuit apart: `wire:sig`, `contact:sig@C1`, `sensor`, `module:pull`; null when it is none. */
export function parseLocalUnit(circuit: string, local: string): RepairUnit | null {
  const plain = PLAIN.find((name) => name === local);
  if (plain !== undefined) return { kind: plain, circuit };
  const [kind = "", rest = ""] = [local.slice(0, local.indexOf(":")), local.slice(local.indexOf(":") + 1)];
  if (rest === "") return null;
  switch (kind) {
    case "wire":
      return { kind, circuit, pin: rest };
    case "contact": {
      const at = rest.indexOf("@");
      return at < 0 ? null : { kind, circuit, pin: rest.slice(0, at), place: rest.slice(at + 1) };
    }
    case "connector":
      return { kind, circuit, place: rest };
    case "module":
      return { kind, circuit, stage: rest };
    case "contacts":
      return rest === "module" ? { kind, circuit } : null;
    case "ground":
      return { kind, circuit, ground: rest };
    default:
      return null;
  }
}

/** Takes a repair unit such as `ect/wire:sig` apart. @returns null when the text is none */
export function parseUnit(text: string): RepairUnit | null {
  const slash = text.indexOf("/");
  return slash <= 0 ? null : parseLocalUnit(text.slice(0, slash), text.slice(slash + 1));
}

/** Prints a repair unit in the language's form. */
export function printUnit(unit: RepairUnit): string {
  return `${unit.circuit}/${printLocalUnit(unit)}`;
}

/** Prints a repair unit's name within its circuit. */
export function printLocalUnit(unit: RepairUnit): string {
  switch (unit.kind) {
    case "wire":
      return `wire:${unit.pin}`;
    case "contact":
      return `contact:${unit.pin}@${unit.place}`;
    case "connector":
      return `connector:${unit.place}`;
    case "module":
      return `module:${unit.stage}`;
    case "contacts":
      return "contacts:module";
    case "ground":
      return `ground:${unit.ground}`;
    case "sensor":
    case "heater":
    case "coil":
    case "battery":
    case "outside":
      return unit.kind;
  }
}

/** The kind of a repair unit; null when the text is none, as for "nothing wrong". */
export function unitKindOf(text: string): UnitKind | null {
  return parseUnit(text)?.kind ?? null;
}

/** The circuit a repair unit or a fault belongs to. */
export function circuitOfUnit(text: string): string {
  return text.split("/")[0] ?? "";
}

/** The repair unit of a fault such as `ect/wire:sig/open`. */
export function unitOfFault(fault: string): string {
  return fault.slice(0, fault.lastIndexOf("/"));
}

/** A fault's unit without its circuit: `wire:sig` of `ect/wire:sig/open`. */
export function localUnitOf(fault: string): string {
  const unit = unitOfFault(fault);
  return unit.slice(unit.indexOf("/") + 1);
}
