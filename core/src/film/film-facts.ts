import type { MusicAnalysis } from "../music/index.ts";
import type { Size, Subject } from "../picture/index.ts";
import type { SpeechFacts } from "../sound/index.ts";
import type { Seconds } from "../time/index.ts";

/** What was measured of a show's files that its laying depends on, by content hash. */
export interface FitFacts {
  /** What was heard in a song. */
  readonly analysis: (sha256: string) => MusicAnalysis | undefined;
  /** What was measured of a picture or a clip; undefined where nobody measured it. */
  readonly seen: (sha256: string) => SeenMedia | undefined;
}

/** What was measured of the files that a show names, by content hash. */
export interface FilmFacts extends FitFacts {
  /** Of songs, voices and clips that are heard; undefined where it is not measured yet. */
  readonly speech: (sha256: string) => SpeechFacts | undefined;
}

/** A picture or, with a duration, a clip; before a person turned it. */
export interface SeenMedia extends Size {
  readonly durationSeconds?: Seconds;
  /** Null or absent where nothing was looked for. */
  readonly subject?: Subject | null;
  /** For likeness and sharpness (core/photo-analysis); null or absent where it was not measured. */
  readonly fingerprint?: string | null;
  readonly blur?: number | null;
  /** Camera time and the camera's name; null, empty or absent where the file does not say. */
  readonly capturedAt?: string | null;
  readonly camera?: string;
}

/** The same as plain data by content hash, as it goes from one thread to another. */
export interface PlainFacts {
  readonly analyses: Readonly<Record<string, MusicAnalysis>>;
  readonly seen: Readonly<Record<string, SeenMedia>>;
  readonly speech: Readonly<Record<string, SpeechFacts>>;
}

/**
 * The facts that planning asks for, from plain records by content hash, which can cross a thread.
 */
export const factsOf = ({ analyses, seen, speech }: PlainFacts): FilmFacts =>
  filmFacts(
    (sha256) => analyses[sha256],
    (sha256) => seen[sha256],
    (sha256) => speech[sha256],
  );

/**
 * The facts that planning asks for, from functions that know them by content hash. Undefined: not
 * known.
 */
export function filmFacts(
  analysis: (sha256: string) => MusicAnalysis | undefined,
  seen: (sha256: string) => SeenMedia | undefined,
  speech: (sha256: string) => SpeechFacts | undefined = () => undefined,
): FilmFacts {
  return { analysis, seen, speech };
}
