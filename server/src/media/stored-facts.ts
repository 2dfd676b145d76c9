import { readFileSync } from "node:fs";
import { speechFactsSchema } from "@humming-tide/contract";
import type { PlainFacts, SeenMedia } from "@humming-tide/core/film";
import type { MusicAnalysis } from "@humming-tide/core/music";
import type { SpeechFacts } from "@humming-tide/core/sound";

/**
 * Where the facts lie that a film is planned from, by content hash: what is large is read by the
 * thread that needs it.
 */
export interface StoredFacts {
  /** Files of analyses of songs. */
  readonly analyses: Readonly<Record<string, string>>;
  /** Files of what is heard in sounds, or where nothing is, that. */
  readonly speech: Readonly<Record<string, string | SpeechFacts>>;
  readonly seen: Readonly<Record<string, SeenMedia>>;
}

/** Reads them, which holds the thread for some milliseconds a song. Throws what reading throws. */
export function readFacts({ analyses, speech, seen }: StoredFacts): PlainFacts {
  const fromFile = (place: string): unknown => JSON.parse(readFileSync(place, "utf8"));
  const each = <From, To>(record: Readonly<Record<string, From>>, read: (value: From) => To): Record<string, To> =>
    Object.fromEntries(Object.entries(record).map(([sha256, value]) => [sha256, read(value)]));
  return {
    analyses: each(analyses, (place) => fromFile(place) as MusicAnalysis),
    speech: each(speech, (value) => (typeof value === "string" ? speechFactsSchema.parse(fromFile(value)) : value)),
    seen,
  };
}
