// npm test: types, lint, dependency rules, dead code, build, unit tests, end-to-end tests, the corpus of cases.
import { checkNode, ensureChromium, ensurePackages, ensurePostgres, ensureSimulator } from "./lib/machine.mjs";
import { main, Refusal, run, say } from "./lib/say.mjs";

const jest = (...projects) => ["jest", "--maxWorkers=1", "--selectProjects", ...projects];

// Groups run one after the other; of a group two steps run side by side, and the next one starts when one of them ends.
const AT_ONCE = 2;
const GROUPS = [
  [
    ["types", process.execPath, ["scripts/types.mjs"]],
    ["lint and format", "npx", ["biome", "ci", "."]],
    ["dependency rules", "npx", ["depcruise", "--config", ".dependency-cruiser.cjs", "packages", "apps", "e2e", "bench"]],
    ["dead code", "npx", ["knip"]],
  ],
  [["build", process.execPath, ["scripts/build.mjs"]]],
  [
    ["unit and property tests", "npx", jest("unit", "database")],
    ["end-to-end tests", process.execPath, ["scripts/e2e.mjs"]],
    ["the corpus of cases", "npx", jest("corpus")],
  ],
];

/** Runs one step; resolves with whether it passed. */
async function step([name, command, args]) {
  const start = performance.now();
  say(`== ${name}`);
  const { code } = await run(command, args, { label: name });
  const seconds = ((performance.now() - start) / 1000).toFixed(1);
  say(`== ${name} ${code === 0 ? "passed in" : "failed after"} ${seconds} s`);
  return code === 0;
}

/** Runs the steps of a group, all of them whatever becomes of one; resolves with whether each passed. */
async function runGroup(steps) {
  const waiting = [...steps];
  const passed = [];
  const work = async () => {
    for (let next = waiting.shift(); next !== undefined; next = waiting.shift()) passed.push(await step(next));
  };
  await Promise.all(Array.from({ length: AT_ONCE }, work));
  return passed;
}

await main(async () => {
  checkNode();
  await ensurePackages();
  await ensurePostgres();
  await ensureChromium();
  await ensureSimulator();
  const start = performance.now();
  let passed = 0;
  for (const group of GROUPS) {
    const outcomes = await runGroup(group);
    const failed = outcomes.filter((good) => !good).length;
    passed += outcomes.length - failed;
    if (failed > 0) throw new Refusal(`${passed} passed, ${failed} failed`);
  }
  say(`== all in ${((performance.now() - start) / 1000).toFixed(0)} s`);
  process.stdout.write(`${passed} passed, 0 failed\n`);
  return 0;
});
