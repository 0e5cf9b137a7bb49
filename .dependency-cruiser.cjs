// One-way floors: a room imports only from floors below it. See docs/architecture.md.
const core = (names) => `^packages/core/src/(${names})/`;
const FLOORS = [
  ["units"],
  ["numeric", "network", "arithmetic"],
  ["circuit", "faults", "instruments", "codes", "vehicle"],
  ["procedures", "signals"],
  ["diagnosis", "job"],
  ["triage"],
  ["practice", "report", "view", "files", "proof", "calculators", "specs", "curves"],
];

/** The rooms of the diagnosis, lowest first, in the order a reading passes them. */
const DIAGNOSIS = ["hypotheses", "predictions", "likelihood", "inference", "posterior", "value-of-information", "double-faults", "decision", "explanation"];
const room = (names) => `^packages/core/src/diagnosis/(${names.join("|")})/`;
/** A test may look at its room from above. */
const TEST = "\\.test\\.ts$";

const withinDiagnosis = DIAGNOSIS.slice(0, -1).map((name, floor) => ({
  name: `diagnosis-${name}-below`,
  severity: "error",
  from: { path: room([name]), pathNot: TEST },
  to: { path: room(DIAGNOSIS.slice(floor + 1)) },
}));

const above = FLOORS.flatMap((rooms, floor) => {
  const higher = FLOORS.slice(floor + 1).flat();
  return higher.length === 0
    ? []
    : [{ name: `floor-${floor}-below`, severity: "error", from: { path: core(rooms.join("|")), pathNot: TEST }, to: { path: core(higher.join("|")) } }];
});

/** Within floor 2: circuit, then faults, then instruments. */
const withinTwo = [
  { name: "circuit-first", severity: "error", from: { path: core("circuit"), pathNot: TEST }, to: { path: core("faults|instruments|codes|vehicle") } },
  { name: "faults-second", severity: "error", from: { path: core("faults"), pathNot: TEST }, to: { path: core("instruments|vehicle") } },
  { name: "instruments-third", severity: "error", from: { path: core("instruments"), pathNot: TEST }, to: { path: core("vehicle") } },
  { name: "numeric-alone", severity: "error", from: { path: core("numeric"), pathNot: TEST }, to: { path: core("network") } },
];

module.exports = {
  forbidden: [
    ...above,
    ...withinTwo,
    ...withinDiagnosis,
    { name: "no-circles", severity: "error", from: {}, to: { circular: true } },
    { name: "language-imports-nothing-of-ours", severity: "error", from: { path: "^packages/language/" }, to: { path: "^(packages/core|apps)/" } },
    { name: "core-knows-no-app", severity: "error", from: { path: "^packages/" }, to: { path: "^apps/" } },
    { name: "core-is-pure", severity: "error", from: { path: "^packages/[^/]+/src/", pathNot: TEST }, to: { dependencyTypes: ["core"] } },
    {
      name: "one-door",
      comment: "Applications use the core through its one door.",
      severity: "error",
      from: { path: "^apps/" },
      to: { path: "^packages/core/src/.+/" },
    },
    { name: "apps-apart", severity: "error", from: { path: "^apps/([^/]+)/" }, to: { path: "^apps/", pathNot: "^apps/$1/" } },
    {
      name: "rooms-by-their-door",
      severity: "error",
      from: { path: "^packages/core/src/([^/]+)/" },
      to: { path: "^packages/core/src/[^/]+/", pathNot: ["^packages/core/src/$1/", "/index\\.ts$"] },
    },
    {
      name: "features-apart",
      severity: "error",
      from: { path: "^apps/web/src/features/([^/]+)/" },
      to: { path: "^apps/web/src/features/", pathNot: "^apps/web/src/features/$1/" },
    },
    {
      name: "stages-apart",
      comment: "A stage's page of a job never imports another's; what they share stands beside them.",
      severity: "error",
      from: { path: "^apps/web/src/features/job/([^/]+)/", pathNot: TEST },
      to: { path: "^apps/web/src/features/job/[^/]+/", pathNot: "^apps/web/src/features/job/($1|shared)/" },
    },
    {
      name: "pages-apart",
      comment: "A page is gone to, never imported by another.",
      severity: "error",
      from: { path: "^apps/web/src/features/.+Page\\.tsx$" },
      to: { path: "^apps/web/src/features/.+Page\\.tsx$" },
    },
    { name: "no-unresolved", severity: "error", from: {}, to: { couldNotResolve: true } },
  ],
  options: {
    doNotFollow: { path: "node_modules" },
    exclude: { path: "(^|/)dist/|drizzle/|\\.d\\.ts$" },
    tsConfig: { fileName: "tsconfig.json" },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: { exportsFields: ["exports"], conditionNames: ["import", "default"], extensions: [".ts", ".tsx", ".mjs", ".js"] },
  },
};
