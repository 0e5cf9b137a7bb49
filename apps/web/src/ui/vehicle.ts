import type { Vehicle } from "@fox-lamp/language";

/** A vehicle as the shop calls it: its name, else make and model. */
export function vehicleName(vehicle: Vehicle): string {
  return vehicle.name ?? ([vehicle.make, vehicle.model].filter(Boolean).join(" ") || "Vehicle");
}

/** Make, model, year and engine in one line; empty when nothing is known. */
export function vehicleLine(vehicle: Vehicle): string {
  return [vehicle.make, vehicle.model, vehicle.engine, vehicle.year].filter(Boolean).join(" ");
}
