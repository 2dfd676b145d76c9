import type { MusicAnalysis } from "../music/index.ts";
import type { Size } from "../picture/index.ts";
import type { FitFacts } from "./fit-show.ts";

/** What was measured of the files that a show names, by content hash. */
export interface FilmFacts extends FitFacts {
  readonly pictureSize: (sha256: string) => Size | undefined;
}

/** A picture or, with a duration, a clip. */
export interface SeenMedia extends Size {
  readonly durationSeconds?: number;
}

export function filmFacts(
  analysis: (sha256: string) => MusicAnalysis | undefined,
  seen: (sha256: string) => SeenMedia | undefined,
): FilmFacts {
  return { analysis, pictureSize: seen, clipSeconds: (sha256) => seen(sha256)?.durationSeconds };
}
