export { anyBeatLevel } from "./any-beat-level.ts";
export { anyEdit, type NamedEdit } from "./any-edit.ts";
export { anyFrameSize, anyPictureSize, anySubject } from "./any-picture.ts";
export { fitMusic, fitPassage, fitRequest, fitSlidesList } from "./fit-request.ts";
export { musicAnalysis, steadyBeats, steadySong } from "./music-analysis.ts";
export { propertyRuns } from "./property-runs.ts";
export { seededNormal, seededRandom } from "./seeded-random.ts";
