import { type Grid, indexOfNearestBeat } from "../grid/index.ts";
import { itemAt } from "../presence/index.ts";
import type { Seconds } from "../time/index.ts";
import type { FilmLength } from "../values/index.ts";

/**
 * So many beats are as long as they are in the music around an instant of the film; half a second
 * each where there are none.
 */
export function lengthInSeconds(length: FilmLength, atSeconds: Seconds, beats: Grid["beats"]): Seconds {
  if (length.unit === "seconds") return length.count;
  if (beats.length < 2) return length.count * 0.5;
  const nearest = indexOfNearestBeat(beats, atSeconds);
  const holding = itemAt(beats, nearest).seconds > atSeconds + 1e-6 ? nearest - 1 : nearest;
  const from = Math.max(0, Math.min(holding, beats.length - 2));
  return length.count * (itemAt(beats, from + 1).seconds - itemAt(beats, from).seconds);
}
