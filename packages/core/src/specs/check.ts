import { BadInput, type SpecFile } from "@fox-lamp/language";
import { buildModel, familyById, type Model } from "../circuit";
import { conflictsIn, type SpecConflict } from "./conflicts";
import { type CurveProblem, problemsOfCurve } from "./curves";
import { judgeLimit, type SpecProblem } from "./limits";

/** What a shelf's check found: what cannot be, what does not agree, and what the windows that can be let pass. */
export interface SpecCheck {
  readonly impossible: readonly ({ readonly name: string; readonly where: string } & (SpecProblem | CurveProblem))[];
  readonly conflicts: readonly Omit<SpecConflict, "places">[];
  readonly passes: readonly { readonly name: string; readonly faults: readonly string[] }[];
}

/** The circuit a specification is compared with: one of the file's, else the family's usual one. @throws BadInput for one that is not there */
function modelOf(file: SpecFile, { family, circuit }: { readonly family: string; readonly circuit?: string | undefined }, where: string): Model {
  const own = (file.circuits ?? []).find((one) => one.id === circuit || (circuit === undefined && one.family === family));
  if (circuit !== undefined && own === undefined)
    throw new BadInput({ code: "spec:circuit", where: `${where}.circuit`, message: `"${circuit}" is none of the file's circuits` });
  if (familyById(family) === null) throw new BadInput({ code: "spec:family", where: `${where}.family`, message: `"${family}" is no family` });
  return buildModel([own ?? { id: "spec", family }]);
}

/** Checks every limit and curve of a file by itself, against its circuit and against the others. @throws BadInput for families and circuits that are not there */
export function checkSpecs(file: SpecFile): SpecCheck {
  const impossible: SpecCheck["impossible"][number][] = [];
  const passes: SpecCheck["passes"][number][] = [];
  const named = file.limits.map((limit, index) => ({ name: limit.id ?? `limit ${index + 1}`, limit }));
  const sound = named.filter(({ name, limit }, index) => {
    const where = `limits[${index}]`;
    const model = modelOf(file, limit, where);
    const circuit = model.circuits[0];
    if (circuit === undefined) return false;
    const { problems, passed } = judgeLimit(model, circuit, limit);
    impossible.push(...problems.map((problem) => ({ name, where, ...problem })));
    if (passed.length > 0) passes.push({ name, faults: passed });
    return problems.every(({ code }) => code === "too-wide");
  });
  file.curves.forEach((curve, index) => {
    const where = `curves[${index}]`;
    const circuit = modelOf(file, curve, where).circuits[0];
    if (circuit === undefined) return;
    const name = curve.id ?? `curve ${index + 1}`;
    impossible.push(...problemsOfCurve(circuit, curve).map((problem) => ({ name, where, ...problem })));
  });
  return { impossible, conflicts: conflictsIn(sound).map(({ places: _places, ...conflict }) => conflict), passes };
}
