const shared = {
  testEnvironment: "node",
  transform: {
    "\\.tsx?$": ["@swc/jest", { jsc: { parser: { syntax: "typescript", tsx: true }, target: "es2022", transform: { react: { runtime: "automatic" } } } }],
  },
  setupFiles: ["<rootDir>/packages/core/test/property-seed.ts", "<rootDir>/apps/web/test/browser-globals.ts"],
  moduleNameMapper: {
    "^@fox-lamp/core$": "<rootDir>/packages/core/src/index.ts",
    "^@fox-lamp/core/(.*)$": "<rootDir>/packages/core/src/$1/index.ts",
    "^@fox-lamp/language$": "<rootDir>/packages/language/src/index.ts",
  },
  modulePathIgnorePatterns: ["/dist/"],
};
const DATABASE = "\\.db\\.test\\.ts$";
// Whole jobs by the hundred: `npm test` starts them when the unit tests or the end-to-end tests end.
const CORPUS = "/(core/test/cases|practice/foreign)\\.test\\.ts$";

export default {
  // Generous: a shared machine can stall for seconds.
  testTimeout: 120_000,
  projects: [
    {
      ...shared,
      displayName: "unit",
      roots: ["<rootDir>/packages", "<rootDir>/apps", "<rootDir>/bench"],
      testMatch: ["**/*.test.ts", "**/*.test.tsx"],
      testPathIgnorePatterns: ["/node_modules/", DATABASE, CORPUS],
    },
    { ...shared, displayName: "corpus", roots: ["<rootDir>/packages/core"], testRegex: CORPUS },
    {
      ...shared,
      displayName: "database",
      roots: ["<rootDir>/apps/server/src", "<rootDir>/apps/server/test", "<rootDir>/scripts/test"],
      testRegex: DATABASE,
      // Packages that are modules only.
      transform: { "\\.[jt]sx?$": shared.transform["\\.tsx?$"] },
      transformIgnorePatterns: ["/node_modules/(?!uuid/)"],
      // A real server, thrown away afterwards; started only when one of these tests is asked for.
      globalSetup: "<rootDir>/scripts/lib/jest/start-database.mjs",
      globalTeardown: "<rootDir>/scripts/lib/jest/stop-database.mjs",
    },
  ],
};
