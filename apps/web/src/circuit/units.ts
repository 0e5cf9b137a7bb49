import type { CircuitView } from "@fox-lamp/core";

/** The repair units of a circuit as it is drawn, by their own names (`wire:sig`), from the module to the part. */
export function localUnitsOf(circuit: CircuitView): string[] {
  return [
    ...(circuit.left === "battery" ? ["battery"] : circuit.stages),
    ...circuit.pins.flatMap((pin) => {
      if (pin.role === "car-ground") return [pin.pin];
      const contact = (place: string): string => `contact:${pin.pin}@${place}`;
      const inner = pin.contacts.filter((place) => place === "module");
      return [...inner.map(contact), `wire:${pin.pin}`, ...pin.contacts.filter((place) => place !== "module").map(contact)];
    }),
    ...(circuit.partUnit === null ? [] : [circuit.partUnit]),
    ...circuit.extras,
  ];
}
