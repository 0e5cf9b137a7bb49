import type { Circuit } from "@fox-lamp/language";
import type { Model } from "../../circuit";

/**
 * Sets of circuits that share a reference or a ground, or whose connectors can be swapped, in the file's order; circuits that share nothing
 * stand alone. Piezos stand together: they hear the same blow, and one tells how hard it was.
 *
 * @param together sets of circuits that stand together besides, for what was read on them; of circuits the model has not they say nothing
 */
export function clustersOf(model: Model, together: readonly (readonly string[])[] = []): Circuit[][] {
  const leader = new Map(model.circuits.map(({ id }) => [id, id]));
  const find = (id: string): string => {
    let at = id;
    while (leader.get(at) !== at) at = leader.get(at) ?? at;
    return at;
  };
  for (const { id, shares } of model.circuits) for (const { bus } of shares) leader.set(find(id), find(bus));
  for (const { first, second } of model.alike) leader.set(find(first), find(second));
  const [first, ...twins] = model.circuits.filter(({ family }) => family.traits.kind === "knock");
  for (const { id } of twins) leader.set(find(id), find(first?.id ?? id));
  for (const set of together) {
    const [one = "", ...others] = set.filter((id) => leader.has(id));
    for (const id of others) leader.set(find(id), find(one));
  }
  const clusters = new Map<string, Circuit[]>();
  for (const { id, circuit } of model.circuits) {
    const root = find(id);
    clusters.set(root, [...(clusters.get(root) ?? []), circuit]);
  }
  return [...clusters.values()];
}
