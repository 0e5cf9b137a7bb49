// npm run types: checks all types. Rooms that compute on arrays (tsconfig.arrays.json) are checked by their own settings: an index into an
// array is taken to lie inside it there, everywhere else it may not.
import { relative } from "node:path";
import ts from "typescript";
import { main, Refusal, root, say } from "./lib/say.mjs";

const host = {
  ...ts.sys,
  onUnRecoverableConfigFileDiagnostic: (problem) => {
    throw new Refusal(ts.flattenDiagnosticMessageText(problem.messageText, "\n"));
  },
};

/** A project's program, and the files it answers for. */
function project(config) {
  const parsed = ts.getParsedCommandLineOfConfigFile(`${root}/${config}`, {}, host);
  return { program: ts.createProgram(parsed.fileNames, parsed.options), files: new Set(parsed.fileNames), configErrors: parsed.errors };
}

await main(async () => {
  const arrays = project("tsconfig.arrays.json");
  const rest = project("tsconfig.json");
  const problems = [...arrays.configErrors, ...rest.configErrors, ...rest.program.getOptionsDiagnostics(), ...rest.program.getGlobalDiagnostics()];
  const check = ({ program }, wanted) => {
    for (const source of program.getSourceFiles()) {
      if (!wanted(source.fileName)) continue;
      problems.push(...program.getSyntacticDiagnostics(source), ...program.getSemanticDiagnostics(source));
    }
  };
  check(arrays, (file) => arrays.files.has(file));
  check(rest, (file) => rest.files.has(file) && !arrays.files.has(file));
  for (const { file, start = 0, code, messageText } of problems) {
    const { line = 0, character = 0 } = file?.getLineAndCharacterOfPosition(start) ?? {};
    const where = file === undefined ? "" : `${relative(root, file.fileName)}(${line + 1},${character + 1}): `;
    say(`${where}error TS${code}: ${ts.flattenDiagnosticMessageText(messageText, "\n")}`);
  }
  return problems.length === 0 ? 0 : 1;
});
