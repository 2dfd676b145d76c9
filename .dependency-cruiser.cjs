/**
 * The rooms of docs/architecture.md: which may import which. Core's rooms are listed from the
 * ground up.
 */
const core = (rooms) => `^core/src/(${rooms})/`;
/** Rooms that another may use, and the one that stands under all. */
const allowed = (rooms) => core(`presence|${rooms}`);

module.exports = {
  forbidden: [
    { name: "no-cycles", severity: "error", from: {}, to: { circular: true } },
    { name: "no-unresolvable", severity: "error", from: {}, to: { couldNotResolve: true } },
    {
      name: "the-ground-stands-alone",
      severity: "error",
      from: { path: core("presence"), pathNot: "\\.test\\.ts$" },
      to: { path: "^core/src/", pathNot: core("presence") },
    },
    {
      name: "numeric-stands-alone",
      severity: "error",
      from: { path: core("numeric"), pathNot: "\\.test\\.ts$" },
      to: { path: "^core/src/", pathNot: allowed("numeric") },
    },
    {
      name: "colour-stands-alone",
      severity: "error",
      from: { path: core("colour"), pathNot: "\\.test\\.ts$" },
      to: { path: "^core/src/", pathNot: allowed("colour") },
    },
    {
      name: "time-stands-on-errors-alone",
      severity: "error",
      from: { path: core("time") },
      to: { path: "^core/src/", pathNot: allowed("time|errors") },
    },
    {
      name: "values-know-no-other-room",
      severity: "error",
      from: { path: core("values") },
      to: { path: "^core/src/", pathNot: allowed("values") },
    },
    {
      name: "doors-of-music-and-show",
      comment: "Their inner rooms are entered by index.ts, from beside them too.",
      severity: "error",
      from: { path: "^[^/]+/src/", pathNot: "\\.test\\.ts$|^core/src/(music|show)/[^/]+/" },
      to: { path: "^core/src/(music|show)/[^/]+/", pathNot: "/index\\.ts$" },
    },
    {
      name: "doors-between-rooms-of-music-and-show",
      severity: "error",
      from: { path: "^core/src/(music|show)/([^/]+)/", pathNot: "\\.test\\.ts$" },
      to: { path: "^core/src/(music|show)/[^/]+/", pathNot: "/index\\.ts$|^core/src/$1/$2/" },
    },
    {
      name: "signal-knows-no-beats",
      severity: "error",
      from: { path: "^core/src/music/signal/", pathNot: "\\.test\\.ts$" },
      to: { path: "^core/src/music/(beats|structure)/" },
    },
    {
      name: "documents-know-no-edits",
      severity: "error",
      from: { path: "^core/src/show/(document|style)/", pathNot: "\\.test\\.ts$" },
      to: { path: "^core/src/show/edits/" },
    },
    {
      name: "style-knows-no-document",
      severity: "error",
      from: { path: "^core/src/show/style/", pathNot: "\\.test\\.ts$" },
      to: { path: "^core/src/show/document/" },
    },
    {
      name: "the-score-is-layout-then-sound-then-rows",
      comment: "Panels and the close-up stand beside the rows.",
      severity: "error",
      from: { path: "^web/src/screens/score/(layout|sound|close-up|panels)/" },
      to: { path: "^web/src/screens/score/rows/" },
    },
    {
      name: "the-layout-of-the-score-stands-alone",
      severity: "error",
      from: { path: "^web/src/screens/score/layout/" },
      to: { path: "^web/src/screens/score/", pathNot: "^web/src/screens/score/layout/" },
    },
    {
      name: "music-knows-no-other-room",
      severity: "error",
      from: { path: core("music"), pathNot: "\\.test\\.ts$" },
      to: { path: "^core/src/", pathNot: allowed("music|time|errors|numeric") },
    },
    {
      name: "show-knows-no-other-room",
      severity: "error",
      from: { path: core("show"), pathNot: "\\.test\\.ts$" },
      to: { path: "^core/src/", pathNot: allowed("show|values|time|errors|language") },
    },
    {
      name: "grid-stands-on-music",
      severity: "error",
      from: { path: core("grid"), pathNot: "\\.test\\.ts$" },
      to: { path: "^core/src/", pathNot: allowed("grid|music|time|errors|numeric") },
    },
    {
      name: "markers-stand-on-grid-and-show",
      severity: "error",
      from: { path: core("markers"), pathNot: "\\.test\\.ts$" },
      to: { path: "^core/src/", pathNot: allowed("markers|grid|music|show|values|time|errors|numeric") },
    },
    {
      name: "arrange-stands-on-grid-show-and-sound",
      severity: "error",
      from: { path: core("arrange"), pathNot: "\\.test\\.ts$" },
      to: { path: "^core/src/", pathNot: allowed("arrange|grid|music|show|values|sound|time|errors|numeric|language") },
    },
    {
      name: "errors-and-language-know-no-other-room",
      severity: "error",
      from: { path: core("errors|language"), pathNot: "\\.test\\.ts$" },
      to: { path: "^core/src/", pathNot: allowed("errors|language") },
    },
    {
      name: "screens-do-not-know-each-other",
      comment: "What two screens need is in a room of its own.",
      severity: "error",
      from: { path: "^web/src/screens/([^/]+)/" },
      to: { path: "^web/src/screens/", pathNot: "^web/src/screens/$1/" },
    },
    {
      name: "only-the-frame-knows-screens",
      comment: "Rooms that screens share do not know them: App.tsx puts screens together.",
      severity: "error",
      from: { path: "^web/src/", pathNot: "^web/src/(screens/|App\\.tsx$)" },
      to: { path: "^web/src/screens/" },
    },
    {
      name: "tables-are-known-to-the-store-only",
      severity: "error",
      from: { path: "^server/src/", pathNot: "^server/src/store/" },
      to: { path: "^server/src/store/tables/" },
    },
    {
      name: "photo-analysis-knows-plain-facts-only",
      severity: "error",
      from: { path: core("photo-analysis"), pathNot: "\\.test\\.ts$" },
      to: { path: "^core/src/", pathNot: allowed("photo-analysis|time|errors") },
    },
    {
      name: "clip-analysis-stands-on-music-and-sound",
      severity: "error",
      from: { path: core("clip-analysis"), pathNot: "\\.test\\.ts$" },
      to: { path: "^core/src/", pathNot: allowed("clip-analysis|music|sound|time|numeric") },
    },
    {
      name: "testing-is-for-tests",
      comment: "Benches measure what tests hold.",
      severity: "error",
      from: { path: "/src/", pathNot: "^demo/src/bench/|\\.test\\.ts$|/testing/" },
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
      to: { path: "^core/src/", pathNot: allowed("words|picture|show|values|errors|numeric") },
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
      to: { path: "^core/src/", pathNot: allowed("web-player|film|picture|time") },
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
