export { anyEdit, type NamedEdit } from "./any-edit.ts";
export { musicAnalysis, steadyBeats } from "./music-analysis.ts";
export { propertyRuns } from "./property-runs.ts";
export { seededNormal, seededRandom } from "./seeded-random.ts";
