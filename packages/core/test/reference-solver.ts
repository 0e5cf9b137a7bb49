import { DATUM, LEAK_SIEMENS, lampAmps, type Netlist, nodesOf } from "../src/network";

/**
 * A slow, obvious solver: Newton's method with numeric derivatives on Kirchhoff's current law, Gaussian elimination with
 * full copies. It shares nothing with the real one but the elements' laws, written down again here.
 */
export function solveSlowly(netlist: Netlist): Map<string, number> {
  const names = [...new Set(netlist.flatMap((element) => nodesOf(element)))].filter((name) => name !== DATUM);
  const volts = new Map<string, number>(names.map((name) => [name, 0]));
  volts.set(DATUM, 0);
  const at = (name: string): number => volts.get(name) ?? 0;

  /** Current out of every node, amps. */
  const residuals = (): number[] => {
    const out = new Map<string, number>(names.map((name) => [name, at(name) * LEAK_SIEMENS]));
    const flow = (from: string, to: string, amps: number): void => {
      out.set(from, (out.get(from) ?? 0) + amps);
      out.set(to, (out.get(to) ?? 0) - amps);
    };
    for (const element of netlist) {
      switch (element.kind) {
        case "resistor":
          flow(element.a, element.b, (at(element.a) - at(element.b)) / element.ohms);
          break;
        case "source":
          flow(element.plus, element.minus, (at(element.plus) - at(element.minus) - element.volts) / element.ohms);
          break;
        case "amplifier": {
          const wanted = element.volts + element.gain * (at(element.plus) - at(element.minus));
          flow(element.out, element.com, (at(element.out) - at(element.com) - wanted) / element.ohms);
          break;
        }
        case "regulator": {
          const across = at(element.out) - at(element.com);
          const knee = element.volts - element.limitAmps * element.ohms;
          const regulated = (element.volts - across) / element.ohms;
          const limited = element.limitAmps + (knee - across) / 1e5;
          const amps = across > element.volts ? (element.volts - across) / element.backOhms : Math.min(regulated, limited);
          flow(element.com, element.out, amps);
          break;
        }
        case "lamp":
          flow(element.a, element.b, lampAmps(element, at(element.a) - at(element.b)));
          break;
      }
    }
    return names.map((name) => out.get(name) ?? 0);
  };

  for (let round = 0; round < 200; round += 1) {
    const now = residuals();
    const step = 1e-7;
    const jacobian = names.map(() => new Array<number>(names.length).fill(0));
    names.forEach((name, column) => {
      const kept = at(name);
      volts.set(name, kept + step);
      residuals().forEach((value, row) => {
        (jacobian[row] as number[])[column] = (value - (now[row] as number)) / step;
      });
      volts.set(name, kept);
    });
    const change = eliminate(
      jacobian,
      now.map((value) => -value),
    );
    const largest = Math.max(...change.map(Math.abs));
    const size = (values: readonly number[]): number => values.reduce((sum, value) => sum + value * value, 0);
    const start = names.map(at);
    const before = size(now);
    // Kinks can send a full step round in circles: halve it until the residual shrinks.
    for (let share = Math.min(1, 5 / largest); share > 1e-9; share /= 2) {
      names.forEach((name, index) => {
        volts.set(name, (start[index] as number) + share * (change[index] as number));
      });
      if (size(residuals()) < before) break;
    }
    if (largest < 1e-10) break;
  }
  return volts;
}

function eliminate(matrix: number[][], right: number[]): number[] {
  const rows = matrix.map((row, index) => [...row, right[index] as number]);
  const n = rows.length;
  const cell = (row: number, column: number): number => (rows[row] as number[])[column] as number;
  for (let column = 0; column < n; column += 1) {
    let best = column;
    for (let row = column + 1; row < n; row += 1) if (Math.abs(cell(row, column)) > Math.abs(cell(best, column))) best = row;
    [rows[column], rows[best]] = [rows[best] as number[], rows[column] as number[]];
    for (let row = 0; row < n; row += 1) {
      if (row === column) continue;
      const factor = cell(row, column) / cell(column, column);
      for (let k = column; k <= n; k += 1) (rows[row] as number[])[k] = cell(row, k) - factor * cell(column, k);
    }
  }
  return rows.map((row, index) => (row[n] as number) / (row[index] as number));
}
