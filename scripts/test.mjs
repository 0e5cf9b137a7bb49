// npm test: types, lint, dependency rules, dead code, unit tests, build, end-to-end tests.
import { readdirSync } from "node:fs";
import { checkNode, ensureChromium, ensurePackages, ensurePostgres, ensureSimulator } from "./lib/machine.mjs";
import { main, Refusal, root, run, say } from "./lib/say.mjs";

// The browser waits more than it works: two halves of about the same length run side by side, each with a server and a database of its own.
const SECOND_HALF = ["families", "hand", "job", "kills", "people", "several", "words"];
const specs = readdirSync(`${root}/e2e/tests`)
  .filter((file) => file.endsWith(".spec.ts"))
  .map((file) => file.replace(".spec.ts", ""));
const halves = [
  { name: "first", specs: specs.filter((spec) => !SECOND_HALF.includes(spec)) },
  { name: "second", specs: specs.filter((spec) => SECOND_HALF.includes(spec)) },
].map(({ name, specs: own }) => ({ name, specs: own.map((spec) => `tests/${spec}.spec.ts`) }));

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
    ...halves.map(({ name, specs }) => [`end-to-end tests, ${name} half`, process.execPath, ["scripts/e2e.mjs", ...specs], { E2E_HALF: name }]),
  ],
];

/** Runs one step; resolves with whether it passed. */
async function step([name, command, args, env = {}]) {
  const start = performance.now();
  say(`== ${name}`);
  const { code } = await run(command, args, { label: name, env: { ...process.env, ...env } });
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
