import type { FaceSight } from "@humming-tide/core/clip-analysis";
import type { FoundFace, Size } from "@humming-tide/core/picture";
import { lookForFaces } from "../workers/look-for-faces.ts";
import { FACE_PIXELS } from "./face-network.ts";
import { type RawFrameWish, rawFrames } from "./raw-frames.ts";

/** Looks a second at first; of a long clip fewer: each takes a processor for some 0.1 s. */
const FIRST_RATE = 2;
const MOST_FIRST_LOOKS = 60;
/** Around the nearest face so many times as many looks, again and again up to the last rate. */
const CLOSER = 10;
const LAST_RATE = 10;

/**
 * How near faces are along a clip: looked at twice a second, and closer and closer around the
 * nearest. Empty where this machine cannot look for faces. `onLook` hears the share that is done.
 * Throws `ffmpeg-failed`.
 */
export async function faceSights(
  clip: string,
  seen: Size,
  durationSeconds: number,
  onLook: (share: number) => void,
): Promise<readonly FaceSight[]> {
  const scale = FACE_PIXELS / Math.max(seen.width, seen.height);
  const side = (length: number): number => Math.max(2, Math.round(length * scale));
  const size = { width: side(seen.width), height: side(seen.height), pixels: "rgb24" } as const;
  let rate = Math.min(FIRST_RATE, MOST_FIRST_LOOKS / durationSeconds);
  let sights = await sightsIn(clip, { ...size, rate }, (count) => onLook((0.8 * count) / (durationSeconds * rate)));
  while (rate < LAST_RATE) {
    const nearest = sights.reduce((best, one) => (one.height > best.height ? one : best), { seconds: 0, height: 0 });
    if (nearest.height === 0) break;
    const part = {
      startSeconds: Math.max(0, nearest.seconds - 1 / rate),
      endSeconds: Math.min(durationSeconds, nearest.seconds + 1 / rate),
    };
    rate = Math.min(LAST_RATE, CLOSER * rate);
    const close = await sightsIn(clip, { ...size, rate, part }, () => onLook(0.9));
    const rest = sights.filter(({ seconds }) => seconds < part.startSeconds || seconds > part.endSeconds);
    sights = [...rest, ...close].sort((a, b) => a.seconds - b.seconds);
  }
  return sights;
}

async function sightsIn(clip: string, wish: RawFrameWish, onLook: (count: number) => void): Promise<FaceSight[]> {
  const sights: FaceSight[] = [];
  const fromSeconds = wish.part?.startSeconds ?? 0;
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
