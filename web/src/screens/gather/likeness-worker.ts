import { type ComparedPicture, similarMoments } from "@humming-tide/core/photo-analysis";

self.onmessage = ({ data }: MessageEvent<readonly ComparedPicture[]>) => {
  self.postMessage(similarMoments(data));
};
