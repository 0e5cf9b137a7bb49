import type { Circuit, Code, FaultRef, KeyState, Measurement, Setup, Value } from "@fox-lamp/language";
import { buildModel, type CircuitModel, engineOf, type Model } from "../circuit";
import { codeLimits, DRIVEN_GROUNDED_VOLTS, DRIVEN_LEAST_VOLTS, TRACK_PERCENT } from "../codes";
import { faultsOf, type PlacedFault, placeFault } from "../faults";
import { simulateReading } from "../instruments";
import { CodeMemory, type Watch } from "./module";
import { type Trace, type TraceRequest, traceOf } from "./trace";

/** What a virtual vehicle is made of. */
export interface VehicleOptions {
  readonly circuits: readonly Circuit[];
  readonly faults: readonly FaultRef[];
  readonly seed: number;
  /** Codes that follow when a circuit's signal is lost, by circuit id (a cam signal that drops out sets timing codes). */
  readonly consequences?: Readonly<Record<string, readonly string[]>>;
}

/** One value of the module's data. */
export interface LiveValue {
  readonly name: string;
  readonly circuit: string;
  readonly value: number;
  readonly unit: string;
}

/**
 * A car with battery, module, sensors and engine, in time. The module looks at its signals as it does in any measurement, so a
 * fault shows in its data, sets its codes by its rules, and takes follow-on codes along. No clock of its own: time passes when
 * {@link VirtualVehicle.run} says so.
 */
export class VirtualVehicle {
  private readonly model: Model;
  private readonly faults: readonly PlacedFault[];
  private readonly memory = new CodeMemory();
  private setup: Setup = { key: "off" };
  private seconds = 0;
  private traces = 0;
  private readonly commanded = new Set<string>();

  /** @throws BadInput for circuits or faults that cannot be */
  constructor(private readonly options: VehicleOptions) {
    this.model = buildModel(options.circuits);
    const known = faultsOf(this.model);
    this.faults = options.faults.map((reference, index) => placeFault(this.model, known, reference, `faults[${index}]`));
  }

  /** Turns the key. Off and on again is a new trip. */
  key(key: KeyState, rpm?: number): void {
    if (this.setup.key === "off" && key !== "off") this.memory.newTrip();
    this.setup = { ...this.setup, key, ...(rpm === undefined ? {} : { rpm }) };
  }

  /** Plugs, stimuli, known values: everything of a setup but the key, which {@link VirtualVehicle.key} turns. */
  arrange(setup: Omit<Setup, "key" | "rpm">): void {
    const { key, rpm } = this.setup;
    this.setup = { ...setup, key, ...(rpm === undefined ? {} : { rpm }) };
  }

  /** Lets time pass; the module looks at its signals ten times a second. */
  run(seconds: number): void {
    const steps = Math.max(1, Math.round(seconds * 10));
    for (let step = 0; step < steps; step += 1) {
      this.seconds += seconds / steps;
      if (this.setup.key !== "off") this.memory.update(this.watches(), this.seconds, () => this.frame());
    }
  }

  codes(): Code[] {
    return this.memory.codes();
  }

  lamp(): boolean {
    return this.memory.lamp();
  }

  clear(): void {
    this.memory.clear();
  }

  /** Commands an actuator of a circuit on or off; only circuits the module drives can be commanded. */
  command(circuit: string, on: boolean): boolean {
    const owner = this.model.circuits.find(({ id }) => id === circuit);
    if (owner === undefined || !owner.pins.some(({ role }) => role === "control")) return false;
    if (on) this.commanded.add(circuit);
    else this.commanded.delete(circuit);
    return true;
  }

  /** The module's data: every signal it reads, in the unit it reports. */
  live(): LiveValue[] {
    if (this.setup.key === "off") return [];
    return this.model.circuits.flatMap((circuit) =>
      circuit.built.reads.map(({ pin, units }): LiveValue => {
        const unit = units[0] ?? "V";
        return { name: `${circuit.id}.${pin}`, circuit: circuit.id, value: this.scan(circuit, pin, unit), unit };
      }),
    );
  }

  /** What an instrument shows on this car now; the measurement's own key and plugs win over the car's. */
  read(measurement: Measurement): Value | null {
    return simulateReading(this.model, { ...measurement, setup: { ...this.setup, ...measurement.setup } }, this.faults, "measurement");
  }

  /** What a scope sees now; every capture has noise of its own. */
  trace(circuit: string, request: Omit<TraceRequest, "seed">): Trace {
    this.traces += 1;
    const owner = this.model.circuits.find(({ id }) => id === circuit) ?? this.model.circuits[0];
    return traceOf(this.model, owner, this.setupOf(owner), this.faults, { ...request, seed: this.options.seed * 1000 + this.traces });
  }

  private setupOf(circuit: CircuitModel): Setup {
    return this.commanded.has(circuit.id) ? { ...this.setup, stimulus: { kind: "command" } } : this.setup;
  }

  private scan(circuit: CircuitModel, pin: string, unit: string): number {
    const measurement: Measurement = {
      circuit: circuit.id,
      meter: "scan",
      red: `${pin}@module`,
      ...(unit === "V" ? {} : { unit }),
      setup: this.setupOf(circuit),
    };
    const value = simulateReading(this.model, measurement, this.faults, "live");
    return typeof value === "number" ? value : 0;
  }

  private frame(): Readonly<Record<string, string>> {
    const { rpm } = engineOf(this.setup);
    const values = this.live().map(({ name, value, unit }) => [name, `${Number(value.toPrecision(4))} ${unit}`]);
    return Object.fromEntries([["engine", `${rpm} rpm`], ...values]) as Record<string, string>;
  }

  private codeOf(circuit: CircuitModel, kind: string): string {
    return circuit.circuit.codes?.[kind] ?? `${circuit.id.toUpperCase()}-${kind.toUpperCase()}`;
  }

  /** Every condition the module looks at now. */
  private watches(): Watch[] {
    return this.model.circuits.flatMap((circuit) => {
      const list = [...this.signalWatches(circuit), ...this.drivenWatches(circuit)];
      const lost = list.some(({ failing, kind }) => failing && kind !== "correlation");
      const followers = this.options.consequences?.[circuit.id] ?? [];
      const turning = engineOf(this.setup).turning;
      return [...list, ...followers.map((code): Watch => ({ circuit: circuit.id, code, kind: "consequence", failing: lost && turning }))];
    });
  }

  private signalWatches(circuit: CircuitModel): Watch[] {
    const { reads } = circuit.built;
    const limits = codeLimits(circuit);
    const engine = engineOf(this.setup);
    const watches: Watch[] = [];
    const levels = circuit.built.world.quantity === "level" || circuit.built.world.quantity === "none" ? [] : reads.filter(({ by }) => by === "volts");
    const volts = levels.map(({ pin }) => this.scan(circuit, pin, "V"));
    if (levels.length > 0) {
      const failing = (test: (value: number) => boolean): boolean => volts.some(test);
      watches.push(
        { circuit: circuit.id, code: this.codeOf(circuit, "low"), kind: "low", failing: failing((value) => value < limits.low) },
        {
          circuit: circuit.id,
          code: this.codeOf(circuit, "high"),
          kind: "high",
          failing: failing((value) => value > limits.high),
        },
      );
    }
    if (levels.length === 2) {
      const [first, second] = levels.map(({ toWorld }, index) => toWorld(volts[index]) ?? 0) as [number, number];
      watches.push({ circuit: circuit.id, code: this.codeOf(circuit, "correlation"), kind: "correlation", failing: Math.abs(first - second) > TRACK_PERCENT });
    }
    for (const { pin, by, units } of reads) {
      if (by === "volts" || units[0] === "taps") continue;
      const expected = by === "hertz" ? true : engine.turning;
      const rate = expected ? this.scan(circuit, pin, by === "hertz" ? "Hz" : "rpm") : 1;
      watches.push({ circuit: circuit.id, code: this.codeOf(circuit, "no-activity"), kind: "no-activity", failing: rate === 0 });
    }
    return watches;
  }

  /** Windings and heaters the module drives: whether any current can flow. */
  private drivenWatches(circuit: CircuitModel): Watch[] {
    const control = circuit.pins.find(({ role }) => role === "control" || role === "heater-control");
    const feed = circuit.pins.find(({ role }) => role === "feed" || role === "heater-feed");
    if (control === undefined || feed === undefined) return [];
    const across = simulateReading(
      this.model,
      { circuit: circuit.id, meter: "volts-dc", red: `${control.pin}@module`, black: "bat-", setup: { ...this.setup, key: "on", stimulus: undefined } },
      this.faults,
      "driven",
    );
    const heater = control.role === "heater-control";
    // A driver that is off sees the battery through a sound winding; one that is on pulls a sound heater's wire down.
    const volts = typeof across === "number" ? across : 0;
    const failing = heater ? volts < DRIVEN_GROUNDED_VOLTS || volts > DRIVEN_LEAST_VOLTS : volts < DRIVEN_LEAST_VOLTS;
    const kind = heater ? "heater" : "circuit";
    return [{ circuit: circuit.id, code: this.codeOf(circuit, kind), kind, failing }];
  }
}
