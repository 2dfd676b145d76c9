export { type ClipStretch, LONG_CLIP_SECONDS, STRETCH_SECONDS } from "./best-stretches.ts";
export type { ClipMoment, ClipMomentKind, FaceSight, WatchedClip } from "./clip-moments.ts";
export { type ClipProposal, clipProposal, type ProposedPart, partOfStretch, proposedPart } from "./clip-proposal.ts";
export { type ClipSeries, ClipWatch, WATCHED_RATE, watchedSize } from "./clip-series.ts";
export { CrowdMeter, type CrowdSound } from "./crowd-sound.ts";
export type { FrameSize } from "./frame-motion.ts";
export type { ProposedTrim, TrimReason } from "./usable-part.ts";
