/** The rooms of docs/architecture.md: which may import which. Core's rooms are listed from the ground up. */
const core = (rooms) => `^core/src/(${rooms})/`;

module.exports = {
  forbidden: [
    { name: "no-cycles", severity: "error", from: {}, to: { circular: true } },
    { name: "no-unresolvable", severity: "error", from: {}, to: { couldNotResolve: true } },
    {
      name: "numeric-stands-alone",
      severity: "error",
      from: { path: core("numeric"), pathNot: "\\.test\\.ts$" },
      to: { path: "^core/src/", pathNot: core("numeric") },
    },
    {
      name: "time-stands-on-errors-alone",
      severity: "error",
      from: { path: core("time") },
      to: { path: "^core/src/", pathNot: core("time|errors") },
    },
    {
      name: "music-knows-no-other-room",
      severity: "error",
      from: { path: core("music"), pathNot: "\\.test\\.ts$" },
      to: { path: "^core/src/", pathNot: core("music|time|errors|numeric") },
    },
    {
      name: "show-knows-no-other-room",
      severity: "error",
      from: { path: core("show"), pathNot: "\\.test\\.ts$" },
      to: { path: "^core/src/", pathNot: core("show|time|errors") },
    },
    {
      name: "grid-stands-on-music",
      severity: "error",
      from: { path: core("grid"), pathNot: "\\.test\\.ts$" },
      to: { path: "^core/src/", pathNot: core("grid|music|time|errors|numeric") },
    },
    {
      name: "markers-stand-on-grid-and-show",
      severity: "error",
      from: { path: core("markers"), pathNot: "\\.test\\.ts$" },
      to: { path: "^core/src/", pathNot: core("markers|grid|music|show|time|errors|numeric") },
    },
    {
      name: "arrange-stands-on-grid-show-and-sound",
      severity: "error",
      from: { path: core("arrange"), pathNot: "\\.test\\.ts$" },
      to: { path: "^core/src/", pathNot: core("arrange|grid|music|show|sound|time|errors|numeric") },
    },
    {
      name: "photo-analysis-knows-plain-facts-only",
      severity: "error",
      from: { path: core("photo-analysis"), pathNot: "\\.test\\.ts$" },
      to: { path: "^core/src/", pathNot: core("photo-analysis|errors") },
    },
    {
      name: "testing-is-for-tests",
      severity: "error",
      from: { path: "/src/", pathNot: "\\.test\\.ts$|/testing/" },
      to: { path: "/src/testing/" },
    },
    {
      name: "fit-knows-no-pixels-and-no-sound",
      severity: "error",
      from: { path: core("fit") },
      to: { path: core("picture|sound|film|measure|check|interchange|music|grid|arrange") },
    },
    {
      name: "picture-knows-no-beats",
      severity: "error",
      from: { path: core("picture") },
      to: { path: core("music|grid|arrange|fit|sound|film|measure|check|interchange") },
    },
    {
      name: "words-stand-on-picture-and-show",
      severity: "error",
      from: { path: core("words"), pathNot: "\\.test\\.ts$" },
      to: { path: "^core/src/", pathNot: core("words|picture|show|errors|numeric") },
    },
    {
      name: "sound-knows-no-pictures",
      severity: "error",
      from: { path: core("sound") },
      to: { path: core("music|grid|arrange|fit|picture|film|measure|check|interchange") },
    },
    {
      name: "film-is-below-check-and-interchange",
      severity: "error",
      from: { path: core("film") },
      to: { path: core("measure|check|interchange") },
    },
    {
      name: "web-player-stands-on-film",
      severity: "error",
      from: { path: core("web-player"), pathNot: "\\.test\\.ts$" },
      to: { path: "^core/src/", pathNot: core("web-player|film|picture|time") },
    },
    {
      name: "core-imports-nothing-above-it",
      severity: "error",
      from: { path: "^core/" },
      to: { path: "^(contract|server|web|cli|demo|stand-ins|e2e)/" },
    },
    {
      name: "core-has-no-node",
      severity: "error",
      from: { path: "^core/src/", pathNot: "\\.test\\.ts$" },
      to: { dependencyTypes: ["core"] },
    },
    {
      name: "contract-stands-on-core",
      severity: "error",
      from: { path: "^contract/" },
      to: { path: "^(server|web|cli|demo|stand-ins|e2e)/" },
    },
    {
      name: "web-and-server-meet-in-the-contract",
      severity: "error",
      from: { path: "^web/" },
      to: { path: "^(server|cli|demo|stand-ins|e2e)/" },
    },
    {
      name: "server-serves-but-does-not-look",
      severity: "error",
      from: { path: "^server/" },
      to: { path: "^(web|cli|demo|e2e)/" },
    },
    {
      name: "services-are-spoken-to-over-their-interface",
      severity: "error",
      from: { path: "^(core|contract|server|web|cli|demo)/", pathNot: "\\.test\\.ts$" },
      to: { path: "^stand-ins/" },
    },
    {
      name: "stand-ins-know-nothing-of-the-house",
      severity: "error",
      from: { path: "^stand-ins/" },
      to: { path: "^(core|contract|server|web|cli|demo|e2e)/" },
    },
    {
      name: "sequelize-only-in-the-store",
      severity: "error",
      from: { pathNot: "^server/src/store/|\\.test\\.ts$" },
      to: { path: "node_modules/(sequelize|umzug|sqlite3)", dependencyTypesNot: ["type-only"] },
    },
  ],
  options: {
    doNotFollow: { path: "node_modules" },
    exclude: { path: "/dist/" },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      exportsFields: ["exports"],
      conditionNames: ["import", "node", "default", "types"],
      extensions: [".ts", ".tsx", ".mjs", ".js", ".json"],
    },
    moduleSystems: ["es6", "cjs"],
  },
};
