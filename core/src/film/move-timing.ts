import type { PlannedMove } from "../picture/index.ts";
import { type FrameRate, framesPerSecond } from "../time/index.ts";
import type { FrameSpan, MusicalMoments } from "./laid-slide.ts";

type MoveTiming = Pick<PlannedMove, "startFrame" | "endFrame" | "eased">;

/** Always under way while the picture is seen. */
export const steadyTiming = ({ startFrame, endFrame }: FrameSpan): MoveTiming => ({
  startFrame,
  endFrame: endFrame - 1,
  eased: false,
});

/** A move that follows the music needs this long to be one. */
const SHORTEST_RISE_SECONDS = 0.8;

/**
 * Arrives on the strongest accent in the later part of a slide. Sets off at the strongest one well
 * before it, or with the slide.
 */
export function musicalTiming(
  { startFrame, endFrame }: FrameSpan,
  { accents }: MusicalMoments,
  rate: FrameRate,
): MoveTiming | null {
  const fps = framesPerSecond(rate);
  const [from, to] = [startFrame / fps, endFrame / fps];
  const arrivals = accents.filter(
    ({ seconds }) =>
      seconds > Math.max(from + SHORTEST_RISE_SECONDS, from + 0.4 * (to - from)) && seconds < to - 1 / fps,
  );
  if (arrivals.length === 0) return null;
  const arrival = arrivals.reduce((best, accent) => (accent.strength > best.strength ? accent : best));
  const departures = accents.filter(
    ({ seconds }) => seconds > from && seconds <= arrival.seconds - Math.max(SHORTEST_RISE_SECONDS, 0.4 * (to - from)),
  );
  const departure = departures.reduce((best, accent) => (accent.strength > best.strength ? accent : best), {
    seconds: from,
    strength: -1,
  });
  return {
    startFrame: Math.round(departure.seconds * fps),
    endFrame: Math.round(arrival.seconds * fps),
    eased: true,
  };
}
