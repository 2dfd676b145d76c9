import { type LookedAt, similarMoments } from "@humming-tide/core/gather";

self.onmessage = ({ data }: MessageEvent<readonly LookedAt[]>) => {
  self.postMessage(similarMoments(data));
};
