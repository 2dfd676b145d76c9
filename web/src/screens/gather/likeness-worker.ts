import { type LookedAt, similarMoments } from "@humming-tide/core/photo-analysis";

self.onmessage = ({ data }: MessageEvent<readonly LookedAt[]>) => {
  self.postMessage(similarMoments(data));
};
