import type { KeyState, Setup } from "@fox-lamp/language";

/** What the engine does in a setup. */
export interface EngineState {
  readonly key: KeyState;
  /** Crankshaft speed, rpm; 0 when it stands. */
  readonly rpm: number;
  readonly turning: boolean;
  /** Runs by itself: exhaust hot, mixture controlled, actuators driven. */
  readonly running: boolean;
}

/** Usual crankshaft speeds where a setup states none, rpm. */
export const USUAL_RPM: Readonly<Record<KeyState, number>> = { off: 0, on: 0, crank: 200, idle: 800, rev: 2500 };

/** How fast people turn an engine by a wrench on its crankshaft, rpm. */
export const HAND_RPM = 25;

/** The engine's state from key and stated speed; off and on always stand still. */
export function engineOf(setup: Setup): EngineState {
  const key = setup.key ?? "on";
  const turning = key === "crank" || key === "idle" || key === "rev";
  const rpm = turning ? (setup.rpm ?? USUAL_RPM[key]) : 0;
  return { key, rpm, turning: turning && rpm > 0, running: key === "idle" || key === "rev" };
}
