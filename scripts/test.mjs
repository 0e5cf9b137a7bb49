// npm test: types, lint, dependency rules, dead code, unit tests, build, end-to-end tests.
import { checkNode, ensureChromium, ensurePackages, ensurePostgres, ensureSimulator } from "./lib/machine.mjs";
import { main, Refusal, root, run, say } from "./lib/say.mjs";

const STEPS = [
  ["types", process.execPath, ["scripts/types.mjs"]],
  ["lint and format", "npx", ["biome", "ci", "."]],
  ["dependency rules", "npx", ["depcruise", "--config", ".dependency-cruiser.cjs", "packages", "apps", "e2e", "bench"]],
  ["dead code", "npx", ["knip"]],
  ["unit and property tests", "npx", ["jest"]],
  ["build", process.execPath, ["scripts/build.mjs"]],
  ["end-to-end tests", process.execPath, ["scripts/e2e.mjs"]],
];

await main(async () => {
  checkNode();
  await ensurePackages();
  await ensurePostgres();
  await ensureChromium();
  await ensureSimulator();
  let passed = 0;
  for (const [name, command, args] of STEPS) {
    const start = performance.now();
    say(`\n== ${name}`);
    const { code } = await run(command, args, { cwd: root });
    const seconds = ((performance.now() - start) / 1000).toFixed(1);
    if (code !== 0) {
      say(`== ${name} failed after ${seconds} s`);
      throw new Refusal(`${passed} passed, 1 failed`);
    }
    say(`== ${name} passed in ${seconds} s`);
    passed += 1;
  }
  process.stdout.write(`${passed} passed, 0 failed\n`);
  return 0;
});
