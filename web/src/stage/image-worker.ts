import { applyLook } from "@humming-tide/core/picture";
import { present } from "@humming-tide/core/presence";
import type { Look } from "@humming-tide/core/show";

/**
 * A picture to be fetched, made as large as a stage needs, and given a look: too much for the
 * page's own thread.
 */
export interface ImageRequest {
  readonly key: string;
  readonly url: string;
  readonly longestSide: number;
  readonly look: Look;
}

export interface ImageAnswer {
  readonly key: string;
  /** Null where it could not be had. */
  readonly image: ImageBitmap | null;
}

self.onmessage = async ({ data }: MessageEvent<ImageRequest>) => {
  const image = await imageOf(data).catch(() => null);
  const answer: ImageAnswer = { key: data.key, image };
  self.postMessage(answer, { transfer: image ? [image] : [] });
};

async function imageOf({ url, longestSide, look }: ImageRequest): Promise<ImageBitmap> {
  const response = await fetch(url);
  if (!response.ok) throw new Error(`status ${response.status}`);
  const whole = await createImageBitmap(await response.blob());
  const scale = Math.min(1, longestSide / Math.max(whole.width, whole.height));
  const canvas = new OffscreenCanvas(Math.round(whole.width * scale), Math.round(whole.height * scale));
  const context = present(canvas.getContext("2d", { willReadFrequently: true }));
  context.imageSmoothingQuality = "high";
  context.drawImage(whole, 0, 0, canvas.width, canvas.height);
  whole.close();
  const pixels = context.getImageData(0, 0, canvas.width, canvas.height);
  applyLook(pixels.data, look);
  context.putImageData(pixels, 0, 0);
  return canvas.transferToImageBitmap();
}
