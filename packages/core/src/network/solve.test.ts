import fc from "fast-check";
import { solveSlowly } from "../../test/reference-solver";
import {
  adjointOf,
  compileNetwork,
  type Edit,
  type Element,
  lampAmps,
  lampVolts,
  type Netlist,
  nodeVolts,
  portOhms,
  prepareEdits,
  solveNetwork,
  UndeterminedNode,
  voltsSensitivity,
  withEdits,
} from "./index";

const resistor = (id: string, a: string, b: string, ohms: number): Element => ({ kind: "resistor", id, a, b, ohms });
const source = (id: string, plus: string, volts: number, ohms = 0.1): Element => ({ kind: "source", id, plus, minus: "bat-", volts, ohms });

const decade = fc.double({ min: -1, max: 6, noNaN: true }).map((exponent) => 10 ** exponent);
const nodeName = fc.constantFrom("n1", "n2", "n3", "n4", "n5", "bat-");

/** Random networks: a chain that keeps every node tied down, resistors across it, a source, a regulator, an amplifier. */
const randomNetwork: fc.Arbitrary<Netlist> = fc
  .record({
    chain: fc.array(decade, { minLength: 5, maxLength: 5 }),
    across: fc.array(fc.tuple(nodeName, nodeName, decade), { maxLength: 6 }),
    volts: fc.double({ min: 1, max: 15, noNaN: true }),
    limit: fc.double({ min: 0.005, max: 0.5, noNaN: true }),
    gain: fc.double({ min: 0, max: 0.95, noNaN: true }),
    lamp: fc.boolean(),
  })
  .map(
    ({ chain, across, volts, limit, gain, lamp }): Netlist => [
      source("feed", "n1", volts),
      ...chain.map((ohms, index) => resistor(`chain${index}`, `n${index + 1}`, index === 4 ? "bat-" : `n${index + 2}`, ohms)),
      ...across.filter(([a, b]) => a !== b).map(([a, b, ohms], index) => resistor(`across${index}`, a, b, ohms)),
      { kind: "regulator", id: "regulator", out: "n3", com: "bat-", volts: 5, ohms: 0.2, limitAmps: limit, backOhms: 1e4 },
      { kind: "amplifier", id: "amplifier", out: "n5", com: "bat-", plus: "n3", minus: "bat-", gain, volts: 0, ohms: 150 },
      ...(lamp ? ([{ kind: "lamp", id: "lamp", a: "n1", b: "n4", ratedVolts: 12, ratedAmps: 0.25, coldOhms: 4.8 }] as const) : []),
    ],
  );

describe("the solver", () => {
  it("keeps the divider law", () => {
    fc.assert(
      fc.property(decade, decade, fc.double({ min: 0.5, max: 15, noNaN: true }), (upper, lower, volts) => {
        const solution = solveNetwork(
          compileNetwork([source("feed", "top", volts, 1e-3), resistor("upper", "top", "middle", upper), resistor("lower", "middle", "bat-", lower)]),
        );
        const leakless = (volts * lower) / (upper + lower + 1e-3);
        expect(nodeVolts(solution, "middle")).toBeCloseTo(leakless, 2);
        expect(Math.abs(nodeVolts(solution, "middle") - leakless)).toBeLessThan(2e-3 * volts + 1e-9);
      }),
    );
  });

  it("superposes sources", () => {
    fc.assert(
      fc.property(decade, decade, decade, (a, b, c) => {
        const net = (first: number, second: number) =>
          nodeVolts(
            solveNetwork(
              compileNetwork([
                source("one", "x", first),
                source("two", "y", second),
                resistor("a", "x", "m", a),
                resistor("b", "y", "m", b),
                resistor("c", "m", "bat-", c),
              ]),
            ),
            "m",
          );
        expect(net(5, 12)).toBeCloseTo(net(5, 0) + net(0, 12), 8);
      }),
    );
  });

  it("agrees with the slow reference solver on random networks", () => {
    fc.assert(
      fc.property(randomNetwork, (netlist) => {
        const fast = solveNetwork(compileNetwork(netlist));
        const slow = solveSlowly(netlist);
        for (const [node, volts] of slow) expect(Math.abs(nodeVolts(fast, node) - volts)).toBeLessThan(1e-5 * Math.max(1, Math.abs(volts)));
      }),
      { numRuns: 150 },
    );
  });

  it("gives the same after an edit as after a rebuild", () => {
    fc.assert(
      fc.property(
        randomNetwork,
        fc.nat(4),
        decade,
        fc.double({ min: 0, max: 14, noNaN: true }),
        fc.double({ min: 0, max: 0.9, noNaN: true }),
        (netlist, chain, ohms, volts, gain) => {
          const net = compileNetwork(netlist);
          const element = (id: string): number => net.elementIndex.get(id) as number;
          const edits: Edit[] = [
            { element: element(`chain${chain}`), field: "ohms", value: ohms },
            { element: element("feed"), field: "volts", value: volts },
            { element: element("amplifier"), field: "gain", value: gain },
          ];
          const edited = prepareEdits(solveNetwork(net)).apply(edits);
          const rebuilt = solveNetwork(net, withEdits(net.values, edits));
          for (const node of net.nodes) expect(Math.abs(nodeVolts(edited, node) - nodeVolts(rebuilt, node))).toBeLessThan(1e-7);
        },
      ),
      {
        numRuns: 200,
        examples: [
          // Opening one wire drives a starved regulator out of its limit: what the first update magnifies, the second must not keep.
          [
            [
              source("feed", "n1", 1),
              ...[842_210, 1, 1, 1, 1].map((ohms, index) => resistor(`chain${index}`, `n${index + 1}`, index === 4 ? "bat-" : `n${index + 2}`, ohms)),
              { kind: "regulator", id: "regulator", out: "n3", com: "bat-", volts: 5, ohms: 0.2, limitAmps: 0.005, backOhms: 1e4 },
              { kind: "amplifier", id: "amplifier", out: "n5", com: "bat-", plus: "n3", minus: "bat-", gain: 0, volts: 0, ohms: 150 },
            ],
            2,
            735_335,
            12.878,
            0,
          ],
        ],
      },
    );
  });

  it("leaves the base untouched by edits", () => {
    const net = compileNetwork([source("feed", "top", 5), resistor("a", "top", "m", 1e3), resistor("b", "m", "bat-", 1e3)]);
    const base = solveNetwork(net);
    const room = prepareEdits(base);
    room.apply([{ element: 1, field: "ohms", value: 1e9 }]);
    expect(nodeVolts(base, "m")).toBeCloseTo(2.5, 3);
    expect(nodeVolts(room.apply([]), "m")).toBeCloseTo(2.5, 3);
  });

  it("predicts the effect of a small change by its adjoint sensitivity", () => {
    fc.assert(
      fc.property(randomNetwork, fc.nat(4), (netlist, chain) => {
        fc.pre(!netlist.some(({ kind }) => kind === "lamp"));
        const net = compileNetwork(netlist);
        const base = solveNetwork(net);
        const element = net.elementIndex.get(`chain${chain}`) as number;
        const adjoint = new Float64Array(net.nodes.length);
        const row = net.nodeIndex.get("n4") as number;
        adjointOf(base, row, -1, adjoint);
        const slope = voltsSensitivity(base, adjoint, element, "ohms");
        const step = 1e-5;
        const moved = solveNetwork(net, withEdits(net.values, [{ element, field: "ohms", value: (net.values.ohms[element] as number) * Math.exp(step) }]));
        fc.pre(moved.regimes.every((regime, index) => regime === base.regimes[index]));
        const measured = (nodeVolts(moved, "n4") - nodeVolts(base, "n4")) / step;
        expect(Math.abs(measured - slope)).toBeLessThan(1e-3 * Math.max(1, Math.abs(slope)));
      }),
    );
  });

  it("has a regulator in each of its three regimes", () => {
    const load = (ohms: number, extra: readonly Element[] = []) =>
      nodeVolts(
        solveNetwork(
          compileNetwork([
            { kind: "regulator", id: "r", out: "out", com: "bat-", volts: 5, ohms: 0.2, limitAmps: 0.1, backOhms: 1e4 },
            resistor("load", "out", "bat-", ohms),
            ...extra,
          ]),
        ),
        "out",
      );
    expect(load(1e3)).toBeCloseTo(5, 2);
    expect(load(10)).toBeCloseTo(1, 1);
    expect(load(1e6, [source("battery", "hot", 12), resistor("short", "hot", "out", 10)])).toBeCloseTo(11.99, 1);
  });

  it("finds a lamp's working point on the load line", () => {
    const lamp = { ratedVolts: 12, ratedAmps: 0.25, coldOhms: 4.8 };
    fc.assert(
      fc.property(fc.double({ min: -14, max: 14, noNaN: true }), decade, (volts, series) => {
        const across = lampVolts(lamp, volts, series);
        expect(Math.abs(across + series * lampAmps(lamp, across) - volts)).toBeLessThan(1e-6 * Math.max(1, series));
      }),
    );
    expect(lampAmps(lamp, 12)).toBeCloseTo(0.25, 6);
  });

  it("sees a port's resistance", () => {
    const solution = solveNetwork(compileNetwork([resistor("a", "x", "bat-", 300), resistor("b", "x", "y", 150), source("s", "y", 5, 0.5)]));
    const x = solution.net.nodeIndex.get("x") as number;
    expect(portOhms(solution, x, -1)).toBeCloseTo(1 / (1 / 300 + 1 / 150.5), 4);
  });

  it("names a node that nothing determines", () => {
    const values = compileNetwork([resistor("a", "x", "y", 1)]);
    const broken = withEdits(values.values, [{ element: 0, field: "ohms", value: Number.NaN }]);
    expect(() => solveNetwork(values, broken)).toThrow(UndeterminedNode);
  });

  it("refuses two elements with one id", () => {
    expect(() => compileNetwork([resistor("a", "x", "y", 1), resistor("a", "y", "bat-", 1)])).toThrow("two elements are called a");
  });
});
