export { DISC_BYTES } from "./disc-writer.ts";
export { type RunningStandIns, startStandIns } from "./stand-ins.ts";
export { VIDEO_ACCOUNT } from "./video-site.ts";
