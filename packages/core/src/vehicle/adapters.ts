import type { Code, Measurement, Value } from "@fox-lamp/language";
import type { Trace, TraceRequest } from "./trace";
import type { LiveValue, VirtualVehicle } from "./vehicle";

/** A scan device: what a real adapter implements over its own wire. Failures are rejected promises with one sentence. */
export interface ScanAdapter {
  codes(): Promise<readonly Code[]>;
  live(names: readonly string[]): Promise<readonly LiveValue[]>;
  /** Clears the codes; whoever calls it has saved them. */
  clear(): Promise<void>;
  command(circuit: string, on: boolean): Promise<void>;
}

/** A meter: leads and range are set by hand, it reports what it shows. */
export interface Meter {
  read(measurement: Measurement): Promise<Value>;
}

/** A scope: it is told channels, length and rate, and gives samples. */
export interface Scope {
  capture(circuit: string, request: Omit<TraceRequest, "seed">): Promise<Trace>;
}

/** A scan adapter on the virtual vehicle. @param run time that passes in the car before each answer, seconds */
export function simulatedScan(vehicle: VirtualVehicle, run = 0.5): ScanAdapter {
  const passing = async <T>(answer: () => T): Promise<T> => {
    vehicle.run(run);
    return answer();
  };
  return {
    codes: () => passing(() => vehicle.codes()),
    live: (names) => passing(() => vehicle.live().filter(({ name }) => names.length === 0 || names.includes(name))),
    clear: () => passing(() => vehicle.clear()),
    command: (circuit, on) =>
      passing(() => {
        if (!vehicle.command(circuit, on)) throw new Error(`${circuit} has nothing the module drives`);
      }),
  };
}

/** A meter on the virtual vehicle. */
export function simulatedMeter(vehicle: VirtualVehicle): Meter {
  return {
    read: async (measurement) => {
      const value = vehicle.read(measurement);
      if (value === null) throw new Error(`a ${measurement.meter} is nothing a meter shows`);
      return value;
    },
  };
}

/** A scope on the virtual vehicle. */
export function simulatedScope(vehicle: VirtualVehicle): Scope {
  return { capture: async (circuit, request) => vehicle.trace(circuit, request) };
}
