import { type PlannedClip, type Size, turnedSize } from "../picture/index.ts";
import type { Slide } from "../show/index.ts";
import { type FrameRate, type Frames, framesPerSecond } from "../time/index.ts";
import { clipMaterial } from "./clip-material.ts";
import type { SeenMedia } from "./film-facts.ts";
import type { FrameSpan, MusicalMoments } from "./laid-slide.ts";

const NO_ACCENT = { seconds: 0, strength: -1 };
const OUT_MARGIN_SECONDS = 1e-3;
/** As large as pictures are prepared: enough to come a little nearer in a 1080p film. */
const LARGEST_CLIP_PIXELS = 2400;

function decodedSize({ width, height }: Size): Size {
  const scale = Math.min(1, LARGEST_CLIP_PIXELS / Math.max(width, height));
  const even = (length: number): number => Math.max(2, 2 * Math.round((length * scale) / 2));
  return { width: even(width), height: even(height) };
}

/**
 * What is shown of a clip; null for a picture. A moment falls on the strongest accent of the slot
 * that its material can reach. Else the clip begins with what it has beside its slot's length, so
 * that it is under way while it comes in; before and behind its material it stands still.
 */
export function planClip(
  slide: Pick<Slide, "clip" | "turn">,
  stored: SeenMedia,
  slot: FrameSpan,
  firstFrame: Frames,
  { accents }: Pick<MusicalMoments, "accents">,
  rate: FrameRate,
): PlannedClip | null {
  if (stored.durationSeconds === undefined) return null;
  const { inSeconds, outSeconds, momentSeconds, speed } = clipMaterial(slide.clip, stored.durationSeconds);
  const fps = framesPerSecond(rate);
  const [from, to] = [slot.startFrame / fps, slot.endFrame / fps];
  let startSeconds =
    inSeconds + speed * Math.max(0, Math.min(from - firstFrame / fps, (outSeconds - inSeconds) / speed - (to - from)));
  if (momentSeconds !== null) {
    const first = Math.max(from, to - (outSeconds - momentSeconds) / speed);
    const last = Math.min(to, from + (momentSeconds - inSeconds) / speed);
    const reached = accents.filter(({ seconds }) => seconds >= first && seconds <= last);
    const accent = reached.reduce((best, one) => (one.strength > best.strength ? one : best), NO_ACCENT);
    if (accent !== NO_ACCENT) startSeconds = momentSeconds - (accent.seconds - from) * speed;
  }
  return {
    startFrame: slot.startFrame,
    startSeconds,
    secondsPerFrame: speed / fps,
    firstSeconds: inSeconds,
    // The frame that begins at the out is no longer shown.
    lastSeconds: Math.max(inSeconds, outSeconds - OUT_MARGIN_SECONDS),
    size: decodedSize(turnedSize(stored, slide.turn)),
  };
}
