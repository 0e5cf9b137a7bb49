import { DATUM, type Element, LEAK_SIEMENS, type Netlist, nodesOf } from "./elements";
import { FILAMENT_EXPONENT } from "./lamp";
import { LIMIT_OHMS } from "./stamp";

/** SPICE names: letters, digits and underscores; the datum is node 0. */
function deckNode(node: string): string {
  return node === DATUM
    ? "0"
    : `n_${node
        .replace(/\+/gu, "p")
        .replace(/-/gu, "m")
        .replace(/[^A-Za-z0-9]/gu, "_")}`;
}

function cards(element: Element, index: number): readonly string[] {
  const [a, b, p, q] = nodesOf(element).map(deckNode);
  const name = `${index}_${element.id.replace(/[^A-Za-z0-9]/gu, "_")}`;
  switch (element.kind) {
    case "resistor":
      return Number.isFinite(element.ohms) ? [`R${name} ${a} ${b} ${element.ohms}`] : [];
    case "fuse":
      return [`R${name} ${a} ${b} ${element.ohms}`];
    case "source":
      return [`V${name} x${name} ${b} DC ${element.volts}`, `R${name} x${name} ${a} ${element.ohms}`];
    case "amplifier":
      return [`E${name} x${name} y${name} ${p} ${q} ${element.gain}`, `V${name} y${name} ${b} DC ${element.volts}`, `R${name} x${name} ${a} ${element.ohms}`];
    case "regulator": {
      const across = `v(${a},${b})`.replace(",0)", ")");
      const regulated = `(${element.volts}-${across})/${element.ohms}`;
      const knee = element.volts - element.limitAmps * element.ohms;
      const limited = `${element.limitAmps}+(${knee}-${across})/${LIMIT_OHMS}`;
      const backFed = `(${element.volts}-${across})/${element.backOhms}`;
      return [`B${name} ${b} ${a} I = ${across} > ${element.volts} ? ${backFed} : min(${regulated}, ${limited})`];
    }
    case "lamp": {
      const across = `v(${a},${b})`.replace(",0)", ")");
      const hot = `${element.ratedAmps}*pwr(abs(${across})/${element.ratedVolts},${FILAMENT_EXPONENT})`;
      return [`B${name} ${a} ${b} I = sgn(${across})*min(abs(${across})/${element.coldOhms}, ${hot})`];
    }
  }
}

/** Node name of the deck for one of ours. */
export function spiceNode(node: string): string {
  return deckNode(node);
}

/**
 * A network as a SPICE deck with an operating-point analysis; the leak of every node is written out, so that an
 * independent simulator solves the same network.
 *
 * @param title first line of the deck
 * @param extra lines put before `.op` (comments, a test current)
 * @param start volts to begin the search from; the kinks of a current limit send Newton's method round in circles otherwise
 */
export function spiceDeck(netlist: Netlist, title: string, extra: readonly string[], start?: ReadonlyMap<string, number>): string {
  const nodes = [...new Set(netlist.flatMap((element) => nodesOf(element)))].filter((node) => node !== DATUM);
  const leaks = nodes.map((node, index) => `Rleak${index} ${deckNode(node)} 0 ${1 / LEAK_SIEMENS}`);
  const guesses = nodes.flatMap((node) => (start?.has(node) ? [`.nodeset v(${deckNode(node)})=${Number((start.get(node) as number).toPrecision(3))}`] : []));
  return [`* ${title}`, ...netlist.flatMap(cards), ...leaks, ...guesses, ...extra, ".options reltol=1e-6 gmin=1e-15", ".op", ".end", ""].join("\n");
}
