// npm test: types, lint, dependency rules, dead code, unit tests, build, end-to-end tests.
import { checkNode, ensureChromium, ensurePackages, ensurePostgres, ensureSimulator } from "./lib/machine.mjs";
import { main, Refusal, run, say } from "./lib/say.mjs";

// Steps of one group run side by side: none of them waits for another's product.
const GROUPS = [
  [
    ["types", process.execPath, ["scripts/types.mjs"]],
    ["lint and format", "npx", ["biome", "ci", "."]],
    ["dependency rules", "npx", ["depcruise", "--config", ".dependency-cruiser.cjs", "packages", "apps", "e2e", "bench"]],
    ["dead code", "npx", ["knip"]],
  ],
  [["build", process.execPath, ["scripts/build.mjs"]]],
  [
    ["unit and property tests", "npx", ["jest", "--maxWorkers=1"]],
    ["end-to-end tests", process.execPath, ["scripts/e2e.mjs"]],
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

await main(async () => {
  checkNode();
  await ensurePackages();
  await ensurePostgres();
  await ensureChromium();
  await ensureSimulator();
  const start = performance.now();
  let passed = 0;
  for (const group of GROUPS) {
    const outcomes = await Promise.all(group.map(step));
    const failed = outcomes.filter((good) => !good).length;
    passed += outcomes.length - failed;
    if (failed > 0) throw new Refusal(`${passed} passed, ${failed} failed`);
  }
  say(`== all in ${((performance.now() - start) / 1000).toFixed(0)} s`);
  process.stdout.write(`${passed} passed, 0 failed\n`);
  return 0;
});
