import type { FaceSight } from "@humming-tide/core/clip-analysis";
import type { FoundFace, Size } from "@humming-tide/core/picture";
import { lookForFaces } from "../workers/look-for-faces.ts";
import { FACE_PIXELS } from "./face-network.ts";
import { type RawFrameWish, rawFrames } from "./raw-frames.ts";

/** Looks a second at first, and where the nearest face was seen. */
const FIRST_RATE = 2;
const NEAR_RATE = 10;
/** Of a long clip fewer a second: each look takes a processor for some 0.1 s. */
const MOST_LOOKS = 60;

/**
 * How near faces are along a clip: looked at twice a second, and again closely around the nearest.
 * Empty where this machine cannot look for faces. `onLook` hears the share that is done. Throws
 * `ffmpeg-failed`.
 */
export async function faceSights(
  clip: string,
  seen: Size,
  durationSeconds: number,
  onLook: (share: number) => void,
): Promise<readonly FaceSight[]> {
  const rate = Math.min(FIRST_RATE, MOST_LOOKS / durationSeconds);
  const scale = FACE_PIXELS / Math.max(seen.width, seen.height);
  const side = (length: number): number => Math.max(2, Math.round(length * scale));
  const wish: RawFrameWish = { width: side(seen.width), height: side(seen.height), rate, pixels: "rgb24" };
  const first = await sightsIn(clip, wish, 0, (count) => onLook((0.8 * count) / (durationSeconds * rate)));
  const nearest = first.reduce((best, one) => (one.height > best.height ? one : best), { seconds: 0, height: 0 });
  if (nearest.height === 0) return first;
  const part = {
    startSeconds: Math.max(0, nearest.seconds - 1 / rate),
    endSeconds: Math.min(durationSeconds, nearest.seconds + 1 / rate),
  };
  const close = await sightsIn(clip, { ...wish, rate: Math.max(rate, nearRate(rate)), part }, part.startSeconds, () =>
    onLook(0.9),
  );
  const rest = first.filter(({ seconds }) => seconds < part.startSeconds || seconds > part.endSeconds);
  return [...rest, ...close].sort((a, b) => a.seconds - b.seconds);
}

/** Closer by so much that no more than a third of all looks are spent on it. */
const nearRate = (rate: number): number => Math.min(NEAR_RATE, (MOST_LOOKS / 3 / 2) * rate);

async function sightsIn(
  clip: string,
  wish: RawFrameWish,
  fromSeconds: number,
  onLook: (count: number) => void,
): Promise<FaceSight[]> {
  const sights: FaceSight[] = [];
  for await (const frame of rawFrames(clip, wish)) {
    const { width, height } = wish;
    const faces = await lookForFaces({ width, height, pixels: new Uint8Array(frame) }, "upright");
    if (faces === null) return [];
    sights.push({ seconds: fromSeconds + sights.length / wish.rate, height: nearestHeight(faces) });
    onLook(sights.length);
  }
  return sights;
}

/** Of faces that the frame does not cut. */
function nearestHeight(faces: readonly FoundFace[]): number {
  const whole = faces.filter(
    ({ box: { x, y, width, height } }) => x >= 0 && y >= 0 && x + width <= 1 && y + height <= 1,
  );
  return whole.reduce((most, { box }) => Math.max(most, box.height), 0);
}
