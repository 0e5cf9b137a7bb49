export default {
  testEnvironment: "node",
  // Generous: a shared machine can stall for seconds.
  testTimeout: 120_000,
  roots: ["<rootDir>/packages", "<rootDir>/apps", "<rootDir>/bench"],
  testMatch: ["**/*.test.ts", "**/*.test.tsx"],
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
