import { type Measurement, parsePoint } from "@fox-lamp/language";

/** The circuit a lead is on, where it names one. */
function onLead(lead: string | undefined): readonly string[] {
  const point = lead === undefined ? null : parsePoint(lead);
  return point === null || point.kind === "fixed" || point.circuit === null ? [] : [point.circuit];
}

/** The circuits a measurement speaks of: its own, and those it has a lead on or a part put in to. Another's plug that is off changes nothing. */
export function circuitsIn(owner: string, { red, black, setup = {} }: Measurement): ReadonlySet<string> {
  const leads = [red, black, ...(setup.add ?? []).flatMap(({ from, to }) => [from, to])];
  return new Set([owner, ...leads.flatMap(onLead)]);
}

/**
 * Sets of circuits that measurements join: what is read with leads on two of them speaks of both, though they may share nothing but a ground.
 *
 * @param measured with the circuit each was taken on
 */
export function joinedByLeads(measured: readonly { readonly owner: string; readonly measurement: Measurement }[]): readonly (readonly string[])[] {
  return measured.flatMap(({ owner, measurement }) => {
    const all = circuitsIn(owner, measurement);
    return all.size < 2 ? [] : [[...all]];
  });
}
